import { expect, test } from 'vitest';
import type { BudgetAnswer, BudgetRow } from '@/contracts/answers/budgets';
import { cellText } from '../sheet/cell';
import { BudgetCells } from './budgetRows';

const caption = (label: string, takes: number): BudgetRow => ({
  kind: 'caption',
  label,
  account: null,
  depth: 0,
  sign: 'debit',
  takes,
  values: [],
  elsewhere: '',
});
const account = (code: string, sign: 'debit' | 'credit', values: string[], elsewhere = '0.00'): BudgetRow => ({
  kind: 'account',
  label: `Account ${code}`,
  account: code,
  depth: 1,
  sign,
  takes: 0,
  values,
  elsewhere,
});
const sheet: BudgetAnswer = {
  entity: 'KSF',
  version: 'Plan',
  year: 2027,
  currency: 'GBP',
  digits: 2,
  unit: [],
  periods: ['2027.01', '2027.02'].map((period, i) => ({ period, from: `2026-0${4 + i}-01`, to: `2026-0${4 + i}-30` })),
  rows: [
    caption('Income', 0),
    caption('Fares', 2),
    account('4110', 'credit', ['100.00', '']),
    account('4111', 'credit', ['', '7.00']),
    caption('Crew', 1),
    account('6110', 'debit', ['30.00', '30.00'], '12.00'),
  ],
  units: [],
  asOf: 1,
};
const text = (cells: BudgetCells, row: number, column: string) => cellText(cells.rowAt(row)?.cells[column]);

test('captions add up their own accounts, the year its periods, the result income less expense; what was written counts', () => {
  const kept = new BudgetCells(sheet, new Map());
  expect([text(kept, 0, 'year'), text(kept, 1, '2027.01'), text(kept, 1, 'year')]).toEqual(['', '100', '107']);
  expect([text(kept, 2, 'year'), text(kept, 2, '2027.02'), text(kept, 5, 'elsewhere')]).toEqual(['100', '', '12']);
  expect(cellText(kept.total.year)).toBe('47');
  expect(kept.changed).toEqual([]);
  const written = new BudgetCells(
    sheet,
    new Map([
      ['4110/2027.02', '-900.00'],
      ['6110/2027.01', ''],
    ]),
  );
  expect([text(written, 1, '2027.02'), text(written, 4, 'year'), cellText(written.total.year)]).toEqual([
    '(893)',
    '30',
    '(823)',
  ]);
  expect(written.changed.map((c) => [c.account.account, c.period, c.amount])).toEqual([
    ['4110', '2027.02', '-900.00'],
    ['6110', '2027.01', ''],
  ]);
  expect(written.rowAt(2)?.cells['2027.02']).toMatchObject({ fresh: true });
  expect(written.rowAt(2)?.cells['2027.01']).not.toMatchObject({ fresh: true });
});

test('only cells of accounts are written in, and a range over captions is of the accounts in it', () => {
  const cells = new BudgetCells(sheet, new Map());
  expect(cells.cellAt({ row: 2, column: 1 })).toEqual({ row: 0, column: 0 });
  // The year spreads over the periods; names, captions and what other units have are not written.
  expect(cells.cellAt({ row: 5, column: 3 })).toEqual({ row: 2, column: 2 });
  expect([
    cells.cellAt({ row: 1, column: 1 }),
    cells.cellAt({ row: 2, column: 0 }),
    cells.cellAt({ row: 2, column: 4 }),
  ]).toEqual([null, null, null]);
  expect(cells.within({ from: { row: 1, column: 0 }, to: { row: 5, column: 9 } })).toEqual({
    from: { row: 0, column: 0 },
    to: { row: 2, column: 2 },
  });
  expect(cells.within({ from: { row: 0, column: 1 }, to: { row: 1, column: 2 } })).toBeNull();
  expect([cells.plainAt({ row: 1, column: 2 }), cells.plainAt({ row: 0, column: 1 })]).toEqual(['7.00', '']);
});

test('a column is as wide as its longest amount, and other units have one where they have anything', () => {
  const keys = (of: BudgetAnswer) => new BudgetCells(of, new Map()).columns.map((c) => c.key);
  expect(keys(sheet)).toEqual(['account', '2027.01', '2027.02', 'year', 'elsewhere']);
  const alone = { ...sheet, rows: sheet.rows.map((r) => ({ ...r, elsewhere: '0.00' })) };
  expect(keys(alone)).toEqual(['account', '2027.01', '2027.02', 'year']);
  const px = (written: [string, string][]) =>
    Number(/\d+/.exec(new BudgetCells(sheet, new Map(written)).columns[1]?.width ?? '')?.[0]);
  expect(px([['6110/2027.01', '1234567890.00']])).toBeGreaterThan(px([]) + 20);
});
