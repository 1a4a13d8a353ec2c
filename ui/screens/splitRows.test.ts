import { expect, test } from 'vitest';
import type { SplitSheet } from '@/contracts/answers/sheets';
import type { Statement } from '@/contracts/answers/statements';
import { type AmountCell, cellText } from '../sheet/cell';
import { unfolded } from './splitColumns';
import { othersRow, type SplitView, splitRows, splitTotal } from './splitRows';
import { guardsProof, statementColumns, statementRow } from './statementRows';
import { pageOf } from './steps';

const balance = (movement: string, count = 1) => ({
  opening: '0.00',
  debit: movement,
  credit: '0.00',
  movement,
  roll: '0.00',
  closing: movement,
  count,
});
const head = {
  sentence: '',
  parts: [],
  address: 'entity=KSF&from=2027.04&to=2027.06',
  currency: 'GBP',
  translated: false,
  load: 1,
};
const row = (member: string, more: Partial<SplitSheet['rows'][number]> = {}): SplitSheet['rows'][number] => ({
  member,
  name: member,
  depth: 0,
  refine: { 'dim.vessel': member },
  address: `${head.address}&dim.vessel=${member}`,
  ...balance('10.00'),
  ...more,
});
const sheet = (more: Partial<SplitSheet>): SplitSheet => ({
  ...head,
  additive: ['movement', 'closing'],
  columns: [],
  rows: [row('MAREN'), row('SKARN')],
  total: balance('20.00', 2),
  tie: { ok: true, offBy: '0.00' },
  ...more,
});
const view: SplitView = {
  levels: ['dim:vessel'],
  across: '',
  folded: new Set(),
  shading: 'no',
  measure: 'movement',
  comparing: 'movement',
  dimensions: undefined,
};
const rowsOf = (data: SplitSheet, more: Partial<SplitView> = {}) =>
  splitRows(unfolded(data.rows, new Set()), data, { ...view, ...more });

test('a cell of a crosstab that is above what is material says so, in what the sheet shows', () => {
  const data = sheet({
    material: '40.00',
    columns: ['Q1', 'Q2'].map((name) => ({ member: name, name, within: null, refine: {}, total: balance('100.00') })),
    rows: [row('MAREN', { cells: [{ ...balance('90.00'), above: ['movement'] }, balance('10.00')] })],
  });
  const signs = (more: Partial<SplitView>) =>
    ['x0', 'x1'].map((key) => {
      const cell = rowsOf(data, { across: 'period', ...more })(0)?.cells[key];
      return (cell as AmountCell | undefined)?.standsOut;
    });
  expect(signs({})).toEqual(['above 40.00, which is material', undefined]);
  expect(signs({ measure: 'closing' })).toEqual([undefined, undefined]);
});

test('a cell of a crosstab traces to its own lines, and one without any to nothing', () => {
  const data = sheet({
    columns: [
      {
        member: '2027.04',
        name: 'Period 4',
        within: null,
        refine: { from: '2027.04', to: '2027.04' },
        total: balance('9.00'),
      },
      {
        member: '2027.05',
        name: 'Period 5',
        within: null,
        refine: { from: '2027.05', to: '2027.05' },
        total: balance('11.00'),
      },
    ],
    rows: [
      row('MAREN', { cells: [balance('4.00'), balance('6.00')] }),
      row('SKARN', { cells: [balance('0.00', 0), balance('10.00')] }),
    ],
  });
  const at = rowsOf(data, { across: 'period' });
  expect(at(0)?.step('x1')).toMatchObject({
    view: 'lines',
    label: 'MAREN, Period 5',
    put: { 'dim.vessel': ['MAREN'], from: ['2027.05'], to: ['2027.05'] },
  });
  expect(at(1)?.step('x0')).toBeNull();
  expect(at(1)?.step('whole')).toMatchObject({ put: { 'dim.vessel': ['SKARN'] } });
  expect(cellText(at(0)?.cells.whole)).toBe('10.00');
  expect(Object.values(splitTotal(data, 'movement')).map(cellText)).toEqual([
    '2 rows, in GBP',
    '9.00',
    '11.00',
    '20.00',
  ]);
});

test('cells are shaded against the largest, and by how they changed from the column before', () => {
  const data = sheet({
    columns: ['a', 'b'].map((member) => ({ member, name: member, within: null, refine: {}, total: balance('1.00') })),
    rows: [row('MAREN', { cells: [balance('40.00'), balance('30.00')] })],
  });
  const shade = (shading: SplitView['shading'], column: string) => rowsOf(data, { shading })(0)?.cells[column];
  expect(shade('size', 'x1')).toMatchObject({ shade: { share: 0.75 } });
  expect(shade('change', 'x1')).toMatchObject({ shade: { share: 0.25, fell: true, arrow: 'less' } });
  expect(shade('change', 'x0')).toEqual({ is: 'amount', value: '40.00' });
});

test('a column that is made of others has no lines of its own; one over another window has those of that window', () => {
  const column = { title: '', hint: '', unit: 'amount' as const, favourable: null };
  const data = sheet({
    compared: [
      { ...column, key: 'window', label: 'This window', scope: {} },
      { ...column, key: 'year-before', label: 'Year before', scope: { from: '2026.04', to: '2026.06' } },
      { ...column, key: 'change:year-before', label: 'Change', scope: {} },
    ],
    rows: [row('MAREN', { values: { window: '10.00', 'year-before': '8.00', 'change:year-before': '2.00' } })],
    values: { window: '20.00', 'year-before': '8.00', 'change:year-before': '12.00' },
  });
  const at = rowsOf(data)(0);
  expect(at?.step('change:year-before')).toBeNull();
  expect(at?.step('year-before')).toMatchObject({
    put: { 'dim.vessel': ['MAREN'], from: ['2026.04'], to: ['2026.06'] },
  });
  expect(at?.figureAt?.('change:year-before')).toBeNull();
  expect(at?.figureAt?.('year-before')?.subject).toContain('from=2026.04');
});

test('a member with others beneath it opens to them, and a split of itself to nothing', () => {
  const member = (code: string, parent: string | null) => ({ code, name: code, parent });
  const dimensions = [
    { code: 'vessel', name: 'Vessel', members: [member('FLEET', null), member('MAREN', 'FLEET')] },
  ] as unknown as SplitView['dimensions'];
  const at = rowsOf(sheet({ rows: [row('FLEET'), row('MAREN')] }), { dimensions });
  expect(at(0)?.step('closing')).toMatchObject({ view: 'split', by: 'dim:vessel/FLEET' });
  expect(at(1)?.step('closing')).toMatchObject({ view: 'lines' });
});

const statement = {
  ...head,
  code: 'income',
  name: 'Income statement',
  kind: 'income',
  shareOf: null,
  columns: [
    { key: 'window', label: 'This window', title: '', hint: '', unit: 'amount', scope: {}, favourable: null },
    { key: 'variance:Plan', label: 'Variance', title: '', hint: '', unit: 'amount', scope: {}, favourable: 'income' },
  ],
  rows: [],
  guards: [],
} as unknown as Statement;
const statementRowOf = (sign: 'debit' | 'credit', variance: string, more: object = {}) =>
  statementRow(
    {
      key: 'fuel',
      label: 'Fuel',
      kind: 'accounts',
      depth: 0,
      sign,
      account: null,
      values: { window: '5.00', 'variance:Plan': variance },
      refine: { accounts: '6210' },
      opens: true,
      ...more,
    } as unknown as Statement['rows'][number],
    statement,
    { opened: new Set(), scale: 'exact', labels: undefined, marks: new Map(), yearStart: undefined },
  );

test('more income or less expense is favourable; a variance has no lines; what is kept is the row’s own figure', () => {
  const word = (sign: 'debit' | 'credit', value: string) => statementRowOf(sign, value).cells['variance:Plan'];
  expect(word('credit', '3.00')).toMatchObject({ verdict: 'favourable' });
  expect(word('debit', '3.00')).toMatchObject({ verdict: 'adverse' });
  expect(word('debit', '-3.00')).toMatchObject({ verdict: 'favourable' });
  expect(word('debit', '0.00')).toMatchObject({ verdict: null });
  const fuel = statementRowOf('debit', '3.00');
  expect([fuel.step('variance:Plan'), fuel.folded]).toEqual([null, true]);
  expect(fuel.step('window')).toMatchObject({ view: 'split', by: 'account', put: { accounts: ['6210'] } });
  expect(fuel.subject).toContain('accounts=6210');
  expect(statementRowOf('debit', '1.00', { refine: null, opens: false }).step('window')).toBeNull();
  expect(statementColumns(statement, 'thousands')[0]?.label).toBe('Income statement, thousands');
});

test('with dealings taken out rows are of outsiders, and what does not cancel is of the companies', () => {
  const [window, ...others] = statement.columns;
  const outsiders = { 'dim.partner': ['~not:KSF', '~not:STL'] };
  const group = { ...statement, columns: [{ ...window, scope: outsiders }, ...others] } as unknown as Statement;
  const view = {
    opened: new Set<string>(),
    scale: 'exact',
    labels: undefined,
    marks: new Map(),
    yearStart: undefined,
  } as const;
  const of = (refine: object) =>
    statementRow(
      { key: 'x', label: 'X', kind: 'accounts', depth: 0, sign: 'debit', values: {}, refine } as never,
      group,
      view,
    );
  const fuel = of({ accounts: '6210' });
  expect([fuel.put, fuel.figureAt?.('window')?.put]).toEqual(
    Array.from({ length: 2 }, () => ({ accounts: ['6210'], 'dim.partner': outsiders['dim.partner'] })),
  );
  const pair = of({ accounts: 'type income, type expense', 'dim.partner': ['KSF', 'STL'] });
  for (const put of [pair.put, pair.figureAt?.('window')?.put, pair.step('window')?.put])
    expect(put).toEqual({ accounts: ['type income, type expense'], 'dim.partner': ['KSF', 'STL'] });
});

test('guards are one mark: all hold, or how many do not', () => {
  const guards = (...ok: boolean[]) => guardsProof(ok.map((o) => ({ ok: o })) as unknown as Statement['guards']);
  expect(guards(true, true)).toEqual({ ok: true, says: 'guards hold' });
  expect(guards(true, false)).toEqual({ ok: false, says: 'a guard does not hold' });
  expect(guards(false, false).says).toBe('2 guards do not hold');
});

test('a page of a split with very many rows ends with what the others come to, which leads nowhere', () => {
  const data = sheet({ total: balance('500.00', 70), others: { ...balance('480.00', 68), next: 'SKARN' } });
  const others = othersRow(data);
  expect(others).toMatchObject({ count: 68, opens: false });
  expect(others && cellText(others.cells.movement ?? others.cells.closing)).toBe('480.00');
  expect(others?.step?.('movement')).toBeNull();
  expect(othersRow(sheet({}))).toBeUndefined();
  expect(
    pageOf({ view: 'split', label: '', row: '', column: '', put: {}, options: { after: 'SKARN', order: 'x' } }),
  ).toEqual({
    after: 'SKARN',
  });
});
