import { expect, test } from 'vitest';
import type { TrialBalance } from '@/contracts/answers/sheets';
import { cellAmount, cellText } from '../sheet/cell';
import { columnsOf, rowsOf, type TrialBalanceView, trialBalanceRow, trialBalanceTotal } from './trialBalanceRows';

type Row = TrialBalance['rows'][number];

const amounts = (opening: string, debit: string, credit: string, closing: string) => ({
  opening,
  debit,
  credit,
  movement: '0.00',
  roll: '0.00',
  closing,
  count: 3,
});
const row = (account: string, depth: number, more: Partial<Row> = {}): Row => ({
  account,
  name: `Account ${account}`,
  type: 'expense',
  heading: false,
  depth,
  ...amounts('10.00', '5.00', '20.00', '-5.00'),
  ...more,
});
const heading = (account: string, depth: number): Row => row(account, depth, { heading: true });
const ROWS = [
  heading('5', 0),
  heading('52', 1),
  row('5210', 2),
  row('5220', 2),
  row('5300', 1),
  heading('6', 0),
  row('6100', 1),
];
const sheet = (more: Partial<TrialBalance> = {}): TrialBalance => ({
  sentence: '',
  parts: [],
  address: 'entity=KSF&from=2027.04&to=2027.06',
  currency: 'GBP',
  translated: false,
  load: 7,
  languages: [],
  schemes: [],
  rows: ROWS,
  sides: { openingDebit: '10.00', openingCredit: '0.00', closingDebit: '0.00', closingCredit: '5.00' },
  totals: amounts('0.00', '5.00', '5.00', '0.00'),
  tie: null,
  ...more,
});
const view: TrialBalanceView = {
  folded: new Set(),
  scale: 'exact',
  sides: false,
  labels: undefined,
  measure: 'closing',
  marks: new Map(),
  controls: new Set(),
};
const shown = (folded: string[], rows = ROWS) =>
  rowsOf(rows, new Set(folded)).map((listed) => ('part' in listed ? listed.key : listed.row.account));
const one = (of: Row, data = sheet(), more: Partial<TrialBalanceView> = {}) =>
  trialBalanceRow({ row: of, hasChildren: false }, data, { ...view, ...more });

test('a folded heading hides all that is beneath it and nothing beside it', () => {
  expect(shown([])).toEqual(ROWS.map((r) => r.account));
  expect(shown(['5'])).toEqual(['5', '6', '6100']);
  expect(shown(['52'])).toEqual(['5', '52', '5300', '6', '6100']);
  // What is folded within what is folded comes back folded; an account bears no fold.
  expect(shown(['5', '52', '5300'])).toEqual(shown(['5']));
  expect(shown(['5300'])).toEqual(shown([]));
  expect(rowsOf(ROWS, new Set(['52'])).map((l) => 'row' in l && l.hasChildren)).toEqual([
    true,
    true,
    false,
    true,
    false,
  ]);
});

test('parts of retained earnings stand below their account, trace to what they are, and hold no evidence', () => {
  const parts: NonNullable<Row['parts']> = [
    { label: 'Brought in', opening: '-100.00', year: null, refine: { kind: 'opening' } },
    { label: 'Result of 2026', opening: '-25.50', year: 2026, refine: { accounts: 'type income, type expense' } },
    { label: 'Not told', opening: '1.00', year: null, refine: null },
  ];
  const listed = rowsOf([heading('3', 0), row('3100', 1, { parts })], new Set());
  expect(listed).toHaveLength(5);
  const rows = listed.map((l) => trialBalanceRow(l, sheet(), view));
  expect(rows.map((r) => r.depth)).toEqual([0, 1, 2, 2, 2]);
  const [brought, result, untold] = rows.slice(2);
  expect(cellText(result?.cells.opening)).toBe('(25.50)');
  expect(brought?.step('opening')).toMatchObject({ view: 'lines', put: { kind: ['opening'] } });
  expect(result?.step('opening')).toMatchObject({ view: 'split', by: 'account' });
  expect(untold?.step('opening')).toBeNull();
  expect([brought, result, untold].map((r) => r?.subject)).toEqual([null, null, null]);
  // Hidden with the heading above it.
  expect(rowsOf([heading('3', 0), row('3100', 1, { parts })], new Set(['3']))).toHaveLength(1);
});

test('in two columns each balance is on one side, and those of a column add up to its total', () => {
  const rows = [
    row('1', 0, { opening: '30.00', closing: '-12.50' }),
    row('2', 0, { opening: '-30.00', closing: '12.50' }),
    row('3', 0, { opening: '0.00', closing: '0.00' }),
  ];
  const data = sheet({
    rows,
    sides: { openingDebit: '30.00', openingCredit: '30.00', closingDebit: '12.50', closingCredit: '12.50' },
  });
  const columns = columnsOf(data, true).map((c) => c.key);
  expect(columns.filter((c) => /Debit|Credit/.test(c))).toHaveLength(4);
  const cells = rows.map((r) => one(r, data, { sides: true }).cells);
  for (const column of ['openingDebit', 'openingCredit', 'closingDebit', 'closingCredit'] as const) {
    const sum = cells.reduce((all, c) => all + Number(cellAmount(c[column]) ?? 0), 0);
    expect(`${column} ${sum.toFixed(2)}`).toBe(`${column} ${data.sides[column]}`);
    const total = trialBalanceTotal(data, { scale: 'exact', sides: true }, '');
    expect(cellAmount(total[column])).toBe(data.sides[column]);
  }
  // Never on both sides; a credit is written without its sign.
  for (const c of cells)
    for (const of of ['opening', 'closing'])
      expect([c[`${of}Debit`], c[`${of}Credit`]].filter((cell) => cellText(cell) !== '').length).toBeLessThanOrEqual(1);
  expect(cellText(cells[0]?.closingCredit)).toBe('12.50');
  // Whichever side it stands on, the balance is what is traced.
  expect(one(rows[0] as Row, data, { sides: true }).step('closingCredit')?.measure).toBe(
    one(rows[0] as Row, data).step('closing')?.measure,
  );
});

test('codes of other schemes are columns on request, also beside other windows', () => {
  const data = sheet({ schemes: ['statutory'] });
  const [account, code] = columnsOf(data, false);
  expect(account?.key).toBe('account');
  expect(code).toMatchObject({ key: 'code:statutory', label: 'Statutory code', onRequest: true });
  expect(cellText(one(row('5210', 0, { codes: { statutory: 'B.4' } }), data).cells['code:statutory'])).toBe('B.4');
  const columns: NonNullable<TrialBalance['columns']> = [
    { key: 'window', label: 'Apr to Jun', title: '', hint: 'h', unit: 'amount' as const, scope: {} },
    {
      key: 'before',
      label: 'Before',
      title: 'Jan to Mar',
      hint: 'h',
      unit: 'amount' as const,
      scope: { from: '2027.01' },
    },
    { key: 'change%', label: '%', title: '', hint: 'h', unit: 'percent' as const, scope: {} },
  ];
  expect(columnsOf({ ...data, columns }, true).map((c) => c.key)).toEqual([
    'account',
    'code:statutory',
    'opening',
    'window',
    'before',
    'change%',
  ]);
  // A share has no total; an amount that nobody told is nothing.
  const total = trialBalanceTotal(
    { ...data, columns, columnTotals: { window: '7.00', before: null } },
    { scale: 'exact', sides: false },
    '',
  );
  expect([total.window, total.before, total['change%']].map(cellText)).toEqual(['7.00', '–', '']);
  // The figure of another window asks for that window, and one that is calculated from others for nothing.
  const found = one(row('5210', 0), { ...data, columns });
  expect(found.figureAt?.('before')?.put).toEqual({ accounts: ['5210'], from: ['2027.01'] });
  expect(found.figureAt?.('change%')).toBeNull();
  expect(found.figureAt?.('debit')).toBeUndefined();
});

test('a row says how its balance came about, asks for itself, and leads to its open documents', () => {
  const plain = one(row('2100', 0, { roll: '0.00' }));
  expect(plain.say('closing')).toBe('Opening 10.00 plus 5.00 debit less 20.00 credit, makes (5.00).');
  expect(one(row('3100', 0, { roll: '-7.00' })).say('closing')).toContain('(7.00) rolled over at the year end');
  expect(plain.put).toEqual({ accounts: ['2100'] });
  expect(decodeURIComponent(plain.subject ?? '')).toContain('accounts=2100');
  expect(plain.links).toBeUndefined();
  const control = one(row('2100', 0), sheet(), { controls: new Set(['2100']) });
  expect(control.links).toHaveLength(1);
  expect(JSON.stringify(control.links)).toContain('2100');
  // A heading asks for what it stands for, which is not always its own code.
  expect(one({ ...heading('9', 0), selection: '9000 to 9999' }).put).toEqual({ accounts: ['9000 to 9999'] });
});

test('thousands are said at the total and shown in every cell, while the amount stays exact', () => {
  const found = one(row('5210', 0, { closing: '-1500.50' }), sheet(), { scale: 'thousands' });
  expect(cellText(found.cells.closing)).toBe('(2)');
  expect(cellAmount(found.cells.closing)).toBe('-1500.50');
  const total = trialBalanceTotal(sheet(), { scale: 'thousands', sides: false }, ', thousands');
  expect(total.label).toBe('4 accounts, in GBP, thousands');
  expect(trialBalanceTotal(sheet({ rows: [row('1', 0)] }), view, '').label).toBe('1 account, in GBP');
});
