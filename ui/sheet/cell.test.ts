import { expect, test } from 'vitest';
import { amountText } from '../amounts';
import { accountCell, amountCell, type Cell, cellAmount, cellText, comparedCell } from './cell';
import type { SheetModel, SheetRow } from './model';
import { severalRows } from './severalRows';

test('a cell reads as it is shown and keeps its exact amount, however far it is shown', () => {
  const thousands = amountCell('-1234567.89', { scale: 'thousands' });
  expect([cellText(thousands), cellAmount(thousands)]).toEqual([amountText('-1235'), '-1234567.89']);
  expect(cellText(amountCell('12.50', { unit: 'NOK' }))).toBe('12.50 NOK');
  expect([cellText(amountCell('0.00')), cellText(amountCell(null)), cellText(amountCell(''))]).toEqual(['–', '', '']);
  expect(cellText({ is: 'percent', value: '-4.5' })).toBe('(4.5)');
  const line: Cell = { is: 'words', code: '6310', text: 'Repairs', others: 2, tags: ['not posted'], sign: 'traced' };
  expect([cellText(line), cellAmount(line)]).toEqual(['6310 Repairs +2 not posted', undefined]);
  expect([undefined, null, 7].map((cell) => cellText(cell))).toEqual(['', '', '7']);
});

test('an account is named by its code, its name, or both', () => {
  const named = [undefined, 'code', 'name'].map((show) => cellText(accountCell('6310', 'Repairs', show)));
  expect(named).toEqual(['6310 Repairs', '6310', 'Repairs']);
});

test('what is good or bad for the result is said of a difference, and of none', () => {
  const verdict = (cell: Cell) => (typeof cell === 'object' && cell && 'verdict' in cell ? cell.verdict : 'no word');
  expect(verdict(comparedCell('-5.00', 'amount', 'adverse'))).toBe('adverse');
  expect(verdict(comparedCell('0.00', 'amount', 'adverse'))).toBeNull();
  expect(verdict(comparedCell('3.1', 'percent', 'favourable'))).toBe('favourable');
  expect(comparedCell(null, 'amount', 'adverse')).toBe('');
});

test('rows chosen together are added up by what their cells hold; shares are not, running balances neither', () => {
  const row = (key: string, cells: SheetRow['cells'], amounts?: Record<string, string>) =>
    ({ key, label: key, cells, amounts, put: { accounts: [key] } }) as unknown as SheetRow;
  const rows = [
    row(
      'a',
      {
        closing: amountCell('10.00', { scale: 'whole' }),
        share: { is: 'percent', value: '40.0' },
        balance: amountCell('99.00'),
      },
      { balance: '1.00' },
    ),
    row(
      'b',
      { closing: amountCell('-2.50'), share: { is: 'percent', value: '60.0' }, balance: amountCell('101.00') },
      { balance: '2.00' },
    ),
  ];
  const several = severalRows({ rowAt: (i: number) => rows[i] } as unknown as SheetModel, new Set([0, 1]));
  expect(several?.says('closing', 'Closing')).toBe('Closing: 7.50 together, 3.75 on average, from (2.50) to 10.00.');
  expect(several?.says('balance', 'Balance')).toMatch(/^Balance: 3.00 together/);
  expect(several?.says('share', 'Share')).toMatch(/Choose a column of amounts/);
  expect(several?.together?.put).toEqual({ accounts: ['a, b'] });
});
