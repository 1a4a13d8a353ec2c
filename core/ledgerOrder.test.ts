import { expect, test } from 'vitest';
import { spread, totalOf } from './budgetSheet';
import { outOfOrder } from './ledgerOrder';
import { perUnit, runningBalances, summary } from './money';
import { typedAmount } from './writtenAmounts';

test('an entry between two that follow one another is marked where its number does not, and its neighbours are not', () => {
  const marked = (entries: string[]) => entries.filter((_, i) => outOfOrder(entries)[i]);
  expect(marked(['PI-8', 'PI-9', 'PI-9', 'PI-10'])).toEqual([]);
  // A year typed wrong: an early number far down, a late one far up.
  expect(marked(['PI-9000', 'PI-0500', 'PI-0500', 'PI-9001'])).toEqual(['PI-0500', 'PI-0500']);
  expect(marked(['PI-100', 'PI-5000', 'PI-101', 'PI-102'])).toEqual(['PI-5000']);
  // Each series counts for itself; names without a number count in none.
  expect(marked(['A-5', 'B-900', 'A-6', 'B-901', 'opening', 'A-7'])).toEqual([]);
});

test('a price is the amount over the quantity, rounded once, with the sign that is left', () => {
  expect(perUnit(10_000, '3')).toBe(3_333);
  expect(perUnit(5, '2')).toBe(3); // half away from zero
  expect(perUnit(-12_345, '-12.50')).toBe(988);
  expect(perUnit(-1_000, '4')).toBe(-250);
  expect(perUnit(100, '0.00')).toBeNull();
  expect(summary(['10.00', '-4.00', '0.50'])).toEqual({
    sum: '6.50',
    average: '2.17',
    least: '-4.00',
    greatest: '10.00',
  });
  expect(summary([])).toBeNull();
  expect(runningBalances('10.00', ['-4.00', '0.50'])).toEqual(['6.00', '6.50']);
});

test('a typed amount is read as it is written here; a year spreads over its periods and loses nothing', () => {
  expect(['1,200.5', '(70)', '70-', ' 1 000 ', '+5', '–', ''].map((t) => typedAmount(t, '.', 2))).toEqual([
    '1200.50',
    '-70.00',
    '-70.00',
    '1000.00',
    '5.00',
    '',
    '',
  ]);
  expect(typedAmount('1.200,5', ',', 2)).toBe('1200.50');
  expect(() => typedAmount('12,5x', '.', 2)).toThrow(/not an amount/);
  expect(() => typedAmount('1.005', '.', 2)).toThrow();
  const even = spread('100.00', ['', '', ''], 2);
  expect(even).toEqual(['33.34', '33.33', '33.33']);
  expect(totalOf(spread('1000.01', ['10.00', '', '30.00'], 2), 2)).toBe('1000.01');
  expect(spread('80.00', ['10.00', '', '30.00'], 2)).toEqual(['20.00', '', '60.00']);
});
