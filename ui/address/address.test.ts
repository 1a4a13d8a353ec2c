import { expect, test } from 'vitest';
import { subjectKey } from '@/contracts/subject';
import { cellFigure } from '../sheet/cellFigure';
import {
  allBut,
  allOf,
  backTo,
  carriedUp,
  changed,
  readScreen,
  type Screen,
  type Step,
  scopeAt,
  screenPath,
  together,
  traced,
} from './address';

const step = (over: Partial<Step>): Step => ({
  view: 'lines',
  label: '6320 Dry-docking & “more”',
  row: '6320',
  column: 'closing',
  put: { accounts: ['6320'] },
  ...over,
});
const start: Screen = {
  origin: 'trial-balance',
  scope: new URLSearchParams('entity=KSF&from=2027.04&to=2027.06&dim.vessel=A&dim.vessel=B'),
  options: { zero: 'moved' },
  steps: [],
};
const deep = traced(
  traced(start, step({ view: 'split', by: 'dim:vessel' })),
  step({ put: { 'dim.vessel': ['MAREN'] } }),
);

test('an address holds the whole screen: written and read again it is the same', () => {
  for (const screen of [
    start,
    deep,
    traced(deep, step({ view: 'entry', entry: 'e7', put: {} })),
    traced(deep, step({ runs: 'week', put: {} })),
  ]) {
    const read = readScreen('trial-balance', new URLSearchParams(screenPath(screen).split('?')[1]));
    expect({ ...read, scope: read.scope.toString() }).toEqual({ ...screen, scope: screen.scope.toString() });
  }
});

test('columns beside a sheet stay beside its splits, not beside lines, and not where one of them is what was traced', () => {
  const beside: Screen = { ...start, origin: 'statements', options: { columns: 'year-before,change:year-before' } };
  const split = (over: Partial<Step>): Step => step({ view: 'split', by: 'account', column: 'window', ...over });
  expect(traced(beside, split({})).steps[0]).toMatchObject({ columns: 'year-before,change:year-before' });
  expect(traced(beside, split({ compare: 'closing' })).steps[0]).toMatchObject({ compare: 'closing' });
  expect(traced(beside, step({})).steps[0]?.columns).toBeUndefined();
  expect(
    traced(beside, split({ column: 'year-before', put: { from: ['2026.04'], to: ['2026.06'] } })).steps[0]?.columns,
  ).toBeUndefined();
  // Through lines they come back; taken away once, they stay away.
  const through = traced(traced(beside, split({})), step({}));
  expect(traced(through, split({})).steps[2]?.columns).toBe('year-before,change:year-before');
  expect(traced(traced(beside, split({ columns: '' })), split({})).steps[1]?.columns).toBeUndefined();
  // A trial balance compares what is at the end.
  expect(traced({ ...beside, origin: 'trial-balance' }, split({})).steps[0]?.compare).toBe('closing');
});

test('a cell under a column to compare with is a figure of its own, under whatever order its parameters stand', () => {
  const head = (key: string, scope: Record<string, string>) => ({
    key,
    scope,
    label: '',
    title: '',
    hint: '',
    unit: 'amount' as const,
  });
  const heads = [
    head('window', {}),
    head('year-before', { from: '2026.04', to: '2026.06' }),
    head('change:year-before', {}),
  ];
  const at = (column: string) =>
    cellFigure(heads, column, 'entity=KSF&from=2027.04&to=2027.06', { accounts: ['63'] }, 'movement');
  expect(at('year-before')?.put).toEqual({ accounts: ['63'], from: ['2026.04'], to: ['2026.06'] });
  expect(subjectKey(at('year-before')?.subject ?? '')).toBe(
    subjectKey('figure:entity=KSF&accounts=63&from=2026.04&to=2026.06'),
  );
  expect(at('change:year-before')).toBeNull();
  expect(at('closing')).toBeUndefined();
  expect(subjectKey('entry:KSF/J1')).toBe('entry:KSF/J1');
});

test('each step narrows the scope of the one above, and going back gives that one again', () => {
  expect(scopeAt(deep, 2).toString()).toBe('entity=KSF&from=2027.04&to=2027.06&accounts=6320&dim.vessel=MAREN');
  expect(scopeAt(backTo(deep, 1), 1).getAll('dim.vessel')).toEqual(['A', 'B']);
});

test('a clause belongs to the sheet on which it is given: those above stay, until it is carried up', () => {
  const narrowed = changed(deep, { min: ['5000'] });
  expect([1, 2].map((depth) => scopeAt(narrowed, depth).get('min'))).toEqual([null, '5000']);
  expect(readScreen(deep.origin, new URLSearchParams(screenPath(narrowed).split('?')[1])).steps).toEqual(
    narrowed.steps,
  );
  const fewer = changed(narrowed, { 'dim.vessel': ['TERN'] });
  expect(scopeAt(fewer, 2).getAll('dim.vessel')).toEqual(['TERN']);
  expect(scopeAt(backTo(fewer, 1), 1)).toEqual(scopeAt(deep, 1));
  expect(changed(fewer, { min: [] }).steps[1]?.only).toEqual({ 'dim.vessel': ['TERN'] });
  const up = carriedUp(narrowed, 1);
  expect([0, 1, 2].map((depth) => scopeAt(up, depth).get('min'))).toEqual(['5000', '5000', '5000']);
  expect(up.steps[1]?.only).toBeUndefined();
  // On the first sheet there is nothing above.
  expect(changed(start, { min: ['5000'] }).scope.get('min')).toBe('5000');
});

test('whose books and when goes to the step that set it, else to the first figure; taking a step’s clause away goes back before it', () => {
  expect(scopeAt(changed(deep, { from: ['2027.01'] }), 0).get('from')).toBe('2027.01');
  expect(changed(deep, { 'dim.vessel': [] }).steps).toHaveLength(1);
  const named = changed(start, { window: ['year-to-date'], from: [], to: [] });
  expect([named.scope.get('window'), named.scope.has('from'), named.scope.has('to')]).toEqual([
    'year-to-date',
    false,
    false,
  ]);
  expect(changed(named, { from: ['2027.01'], to: ['2027.02'] }).scope.has('window')).toBe(false);
});

test('rows that differ in one thing are asked together; rows that differ in more are not', () => {
  const row = (accounts: string, vessel: string) => ({ accounts: [accounts], 'dim.vessel': [vessel] });
  expect(allOf([row('6310', 'A'), row('6320', 'A')])).toEqual({ accounts: ['6310, 6320'], 'dim.vessel': ['A'] });
  expect(allOf([row('63*', 'A'), row('63*', '~none')])).toEqual({ accounts: ['63*'], 'dim.vessel': ['A', '~none'] });
  expect(allOf([row('6310', 'A'), row('6320', 'B')])).toBeNull();
  expect(allOf([row('6*, except 63', 'A'), row('63', 'A')])).toBeNull();
  expect(allOf([{ min: ['100.00'] }, { min: ['5.00'] }])).toBeNull();
  const period = (p: string) => ({ from: [p], to: [p] });
  expect(allOf([period('2027.06'), period('2027.04')])).toEqual({
    from: ['2027.04'],
    to: ['2027.06'],
    period: ['2027.04', '2027.06'],
  });
  expect(
    allOf([
      { from: ['2026-04-01'], to: ['2026-04-30'] },
      { from: ['2026-06-01'], to: ['2026-06-30'] },
    ]),
  ).toBeNull();
});

test('two windows together are what lies in both', () => {
  const week = { from: ['2026-07-27'], to: ['2026-08-02'] };
  const month = { from: ['2026-08-01'], to: ['2026-08-31'], accounts: ['4'] };
  expect(together(week, month)).toEqual({ from: ['2026-08-01'], to: ['2026-08-02'], accounts: ['4'] });
});

test('a narrowing is turned round beside what the scope asks already', () => {
  const scope = new URLSearchParams('accounts=4*&dim.vessel=FLEET');
  expect(allBut(scope, { accounts: ['4110'] })).toEqual({ accounts: ['4*, except 4110'] });
  expect(allBut(new URLSearchParams(), { accounts: ['4110'] })).toEqual({ accounts: ['except 4110'] });
  expect(allBut(scope, { 'dim.vessel': ['MAREN'] })).toEqual({ 'dim.vessel': ['FLEET', '~not:MAREN'] });
  expect(allBut(scope, { journal: ['~none'] })).toEqual({ journal: ['~not:~none'] });
  expect(allBut(scope, { journal: ['GL'], 'dim.vessel': ['MAREN'] })).toBeNull();
  expect(allBut(scope, { from: ['2027.01'], to: ['2027.01'] })).toBeNull();
});
