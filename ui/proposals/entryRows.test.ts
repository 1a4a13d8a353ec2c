import { expect, test } from 'vitest';
import { balanceOf, EMPTY_ROW, type Field, pasted, rowsOf, sentLine, withValue } from './entryRows';

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

test('what was drafted says its day once', () => {
  const line = {
    ...{ account: '6320', accountName: '', amount: '-5.00', debit: '0.00', credit: '5.00', period: '2027.04' },
    ...{ description: 'x', counterparty: null, document: null, taxCode: null, dims: [] },
  };
  const rows = rowsOf(
    [
      { ...line, date: '2026-07-06' },
      { ...line, date: '2026-08-01' },
    ],
    '2026-07-06',
  );
  expect(rows.map((r) => [r.debit, r.credit, r.date])).toEqual([
    ['', '5.00', ''],
    ['', '5.00', '2026-08-01'],
  ]);
});
