import { expect, test } from 'vitest';
import {
  balanceOf,
  balancesIn,
  EMPTY_ROW,
  type Field,
  momentOf,
  pasted,
  rowsOf,
  sentEntry,
  sentLine,
  withValue,
} from './entryRows';

const FIELDS: Field[] = ['account', 'debit', 'credit', 'description', 'dims.vessel'];
const VESSEL = [{ code: 'vessel', name: 'Vessel' }];

test('a table from a spreadsheet goes to the right of the cell, or by its heads; an amount by its sign', () => {
  const plain = pasted([EMPTY_ROW], '6320\t1,234.50\n2100\t\t1,234.50', { row: 0, field: 'account' }, FIELDS, VESSEL);
  expect(plain.map((r) => [r.account, r.debit, r.credit])).toEqual([
    ['6320', '1,234.50', ''],
    ['2100', '', '1,234.50'],
  ]);
  const named = pasted(
    [{ ...EMPTY_ROW, account: '1000' }],
    'Text\tAccount\tAmount\tVessel\nDocking\t6320\t410.25\tMAREN\nOwed\t2100\t(410.25)\t\n',
    { row: 1, field: 'debit' },
    FIELDS,
    VESSEL,
  );
  expect(named.slice(1).map((r) => [r.account, r.debit, r.credit, r.description, r.dims.vessel])).toEqual([
    ['6320', '410.25', '', 'Docking', 'MAREN'],
    ['2100', '', '410.25', 'Owed', ''],
  ]);
  expect(named[0]?.account).toBe('1000');
  expect(balanceOf(named, '.')).toEqual({ debit: '410.25', credit: '410.25', off: '0.00' });
});

test('an amount is on one side, and is sent with its sign however the reader writes it', () => {
  const row = withValue(withValue(EMPTY_ROW, 'debit', '10'), 'credit', '1.234,5');
  expect(row).toMatchObject({ debit: '', credit: '1.234,5' });
  expect(sentLine({ ...row, account: ' 6320 ' }, ',')).toEqual({ account: '6320', amount: '-1234.5', dims: {} });
  expect(balanceOf([row, { ...EMPTY_ROW, debit: '1.000' }], ',').off).toBe('-234.5');
});

const LINE = {
  ...{ account: '6320', accountName: '', amount: '-5.00', debit: '0.00', credit: '5.00' },
  ...{ description: 'x', counterparty: null, document: null, taxCode: null, inCurrency: null, dims: [] },
};
const FROM_APRIL = { kind: 'monthly', start: '04', adjustmentPeriods: 1 } as const;

test('what was drafted says its day once', () => {
  const rows = rowsOf(
    [
      { ...LINE, date: '2026-07-06', period: '2027.04' },
      { ...LINE, date: '2026-08-01', period: '2027.05' },
    ],
    { date: '2026-07-06', period: '' },
    FROM_APRIL,
  );
  expect(rows.map((r) => [r.debit, r.credit, r.date])).toEqual([
    ['', '5.00', ''],
    ['', '5.00', '2026-08-01'],
  ]);
});

test('an entry of an adjustment period stays in it when it is changed, and so does each of its lines', () => {
  const lines = [
    { ...LINE, date: '2027-03-31', period: '2027.13' },
    { ...LINE, date: '2027-03-31', period: '2027.12' },
    { ...LINE, date: '2027-04-01', period: '2028.01' },
  ];
  const on = momentOf(lines[0] as (typeof lines)[0], FROM_APRIL);
  expect(on).toEqual({ date: '2027-03-31', period: '2027.13' });
  const rows = rowsOf(lines, on, FROM_APRIL);
  expect(rows.map((r) => [r.date, r.period])).toEqual([
    ['', ''],
    ['2027-03-31', ''],
    ['2027-04-01', ''],
  ]);
  const sent = sentEntry({ ...on, turnsAround: '', rows }, '.');
  expect(sent).toMatchObject({ date: '2027-03-31', period: '2027.13' });
  expect(sent.lines.map((l) => 'date' in l && l.date)).toEqual([false, '2027-03-31', '2027-04-01']);
});

test('what is in the currency of its transaction is sent with the sign of its line, and told by how much it is off', () => {
  const rows = [
    { ...EMPTY_ROW, account: '5100', debit: '88', currency: 'eur', currencyAmount: '1.100,50' },
    { ...EMPTY_ROW, account: '2000', credit: '88', currency: 'EUR', currencyAmount: '1.000' },
    { ...EMPTY_ROW, account: '5100', debit: '7' },
  ];
  expect(rows.map((r) => sentLine(r, ','))).toMatchObject([
    { currency: 'EUR', currencyAmount: '1100.50' },
    { currency: 'EUR', currencyAmount: '-1000' },
    { account: '5100', amount: '7' },
  ]);
  expect(balancesIn(rows, ',')).toEqual([{ currency: 'EUR', off: '100.50' }]);
  const drafted = { ...LINE, date: '2026-07-06', period: '2027.04', inCurrency: { currency: 'EUR', amount: '-5.80' } };
  const [row] = rowsOf([drafted], { date: '2026-07-06', period: '' }, FROM_APRIL);
  expect([row?.credit, row?.currency, row?.currencyAmount]).toEqual(['5.00', 'EUR', '5.80']);
});
