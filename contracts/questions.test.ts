import { expect, test } from 'vitest';
import { ProblemError } from './problem';
import {
  compareShape,
  entryShape,
  evidenceShape,
  exportShape,
  linesShape,
  overTimeShape,
  sheetShape,
  statementShape,
  trialBalanceShape,
  whatMovedShape,
} from './questions';
import { type Route, routes } from './routes';
import { readQuery } from './scope';

const read = (shape: Parameters<typeof readQuery>[0], query: string): Record<string, unknown> =>
  readQuery(shape, new URLSearchParams(query)) as Record<string, unknown>;
/** The places that a refusal names. */
function refused(shape: Parameters<typeof readQuery>[0], query: string): string[] {
  try {
    read(shape, query);
  } catch (error) {
    if (error instanceof ProblemError) return error.errors.map((e) => e.path);
    throw error;
  }
  return [];
}

test('questions have the usual answer where they say nothing, and lists where a word comes once or often', () => {
  expect(read(linesShape, 'entity=KSF')).toMatchObject({ entity: ['KSF'], limit: expect.any(Number) });
  expect(read(sheetShape, 'by=account&by=dim:vessel')).toMatchObject({ by: ['account', 'dim:vessel'] });
  expect(read(overTimeShape, '')).toMatchObject({ periods: 24 });
  expect(read(statementShape, 'column=ytd&open=fuel&open=crew')).toMatchObject({
    column: ['ytd'],
    open: ['fuel', 'crew'],
  });
  expect(read(trialBalanceShape, 'dim.vessel=MAREN&dim.vessel=SKARN&entity=KSF')).toMatchObject({
    dims: { vessel: ['MAREN', 'SKARN'] },
  });
});

test('a number that is none, too many, or beyond what is allowed names its place', () => {
  expect(refused(linesShape, 'limit=0')).toEqual(['limit']);
  expect(refused(linesShape, 'limit=many')).toEqual(['limit']);
  expect(refused(linesShape, 'limit=1000000')).toEqual(['limit']);
  expect(refused(linesShape, 'at=-1')).toEqual(['at']);
  expect(refused(compareShape, 'from=a&to=2')).toEqual(['from']);
  expect(refused(overTimeShape, 'periods=1')).toEqual(['periods']);
  expect(refused(whatMovedShape, 'against=tomorrow')).toEqual(['against']);
  expect(refused(exportShape, 'format=pdf&what=lines')).toEqual(['format']);
  expect(refused(evidenceShape, 'limit=1.5')).toEqual(['limit']);
});

test('a word that no question has is refused, not passed over', () => {
  expect(refused(entryShape, 'enttiy=KSF')).toEqual(['enttiy']);
  expect(refused(linesShape, 'acounts=6310')).toEqual(['acounts']);
  expect(refused(sheetShape, 'by=account&nonsense=1')).toEqual(['nonsense']);
  expect(refused(linesShape, 'limit=5&limit=6')).toEqual(['limit']);
  // A name that every object has is a name like any other.
  expect(refused(linesShape, '__proto__=1')).toEqual(['__proto__']);
  expect(refused(linesShape, 'text=a%00b')).toEqual(['text']);
});

test('whatever takes a scope takes the whole of it', () => {
  const words = ['entity', 'accounts', 'from', 'to', 'window', 'status', 'adjustments', 'load', 'text', 'heavy'];
  for (const [name, route] of Object.entries(routes as Record<string, Route>)) {
    if (!route.query || !('accounts' in route.query)) continue;
    expect([name, words.filter((w) => !(w in (route.query ?? {})))]).toEqual([name, []]);
  }
});
