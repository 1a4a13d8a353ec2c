import fc from 'fast-check';
import { expect, test } from 'vitest';
import { calendar } from '@/core/calendar';
import type { Figure } from '@/core/figure';
import { dice, randomFigure, randomLedger } from '@/core/testing/randomLedger';
import { openApi } from './openapi';
import { ProblemError } from './problem';
import { linesShape } from './questions';
import { ROUTES } from './routes';
import { clausesOf, paramsOf, readQuery, refinement, scopeShape, selectionOf } from './scope';
import { readSplit, splitText } from './splits';

const ledger = randomLedger(7, [
  { code: 'A', spec: { kind: 'monthly', start: '07', adjustmentPeriods: 1 }, yearEnd: 'derived' },
]);

test('a figure written as parameters and read again asks the same', () => {
  fc.assert(
    fc.property(fc.nat(), (seed) => {
      const figure = randomFigure(dice(seed + 1), ledger, ['A']);
      const params = readQuery(scopeShape, paramsOf(figure, 2));
      const again: Figure = { ...figure, accounts: selectionOf(params), where: clausesOf(params, 2) };
      expect(paramsOf(again, 2).toString()).toBe(paramsOf(figure, 2).toString());
      expect(refinement(figure, again, 2)).toEqual({});
    }),
  );
});

test('unknown, repeated and malformed parameters are refused by name', () => {
  const refused = (query: string): string | undefined => {
    try {
      readQuery(linesShape, new URLSearchParams(query));
      return undefined;
    } catch (error) {
      return (error as ProblemError).errors[0]?.path;
    }
  };
  expect(
    [
      'entity=A&colour=red',
      'from=2027.01&from=2027.02',
      'from=2027-02-30',
      'status=booked',
      'limit=0',
      'min=1&kind=odd',
      'load=-1',
    ].map(refused),
  ).toEqual(['colour', 'from', 'from', 'status', 'limit', 'kind.0', 'load']);
  expect(refused('entity=A&entity=B&dim.unit=N1&dim.unit=~none&period=2027.13')).toBeUndefined();
  expect(() => clausesOf({ ...readQuery(scopeShape, new URLSearchParams('min=1.234')) }, 2)).toThrow(ProblemError);
});

test('numbers of lines are asked for by exact bounds; what is no number, or runs backwards, is refused with what to write', () => {
  const clauses = (query: string) => clausesOf(readQuery(scopeShape, new URLSearchParams(query)), 2);
  expect(clauses('quantity=1.50..&quantity=~none')).toEqual([
    { on: 'quantity', any: [{ from: '1.50', to: null }, null] },
  ]);
  expect(clauses('quantity=~not:..7')).toEqual([{ on: 'quantity', any: [{ from: null, to: '7' }], not: true }]);
  expect(clauses('unitPrice=12.5')).toEqual([{ on: 'unitPrice', any: [{ from: '1250', to: '1250' }] }]);
  expect(() => clauses('quantity=many')).toThrow(/is no number; write 5, 1\.\.9/);
  expect(() => clauses('line=9..1')).toThrow(/runs backwards; write 1\.\.9/);
  expect(() => clauses('unitPrice=1.234')).toThrow(/3 decimals/);
});

test('splits are read as they are written', () => {
  for (const text of ['account', 'account/2', 'source', 'dim:vessel', 'dim:vessel@2', 'dim:cost-centre/OPS/1'])
    expect(splitText(readSplit(text))).toBe(text);
  expect(() => readSplit('dim:')).toThrow(/nothing to split by/);
});

test('the OpenAPI document names every route with every parameter that it takes', () => {
  const { paths } = openApi() as { paths: Record<string, Record<string, { parameters?: { name: string }[] }>> };
  expect(Object.keys(paths)).toHaveLength(new Set(ROUTES.map((r) => r.path)).size);
  const lines = paths['/api/v1/lines']?.get?.parameters?.map((p) => p.name);
  expect(lines).toEqual([...Object.keys(linesShape), 'dim']);
});

test('a posting date is a calendar date, whatever the zone of the machine', () => {
  const before = process.env.TZ;
  const seen = ['Pacific/Kiritimati', 'America/Anchorage'].map((zone) => {
    process.env.TZ = zone;
    return calendar({ kind: 'monthly', start: '04', adjustmentPeriods: 0 }).periodAt('2026-03-31');
  });
  process.env.TZ = before;
  expect(seen[0]).toEqual(seen[1]);
  expect(seen[0]).toMatchObject({ year: 2026, number: 12, from: '2026-03-01', to: '2026-03-31' });
});
