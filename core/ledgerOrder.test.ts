import { expect, test } from 'vitest';
import { spread, totalOf } from './budgetSheet';
import { outOfPlace } from './ledgerOrder';
import { perUnit, runningBalances, summary } from './money';
import { typedAmount } from './writtenAmounts';

const USUAL = { document: 14, entered: 3 };
const line = (day: string, documentDate: string | null = null, enteredOn: string | null = null) => ({
  ...{ day, documentDate, enteredOn },
});
const NONE = { before: [], after: [] };

test('a date that is further from its document, or from its entry, than is usual in the account does not belong', () => {
  const reasons = (...of: Parameters<typeof line>) => outOfPlace(line(...of), USUAL, NONE);
  expect(reasons('2026-07-20', '2026-07-03', '2026-07-21')).toEqual([]);
  expect(reasons('2027-06-11', '2026-06-11')).toEqual([
    'booked 365 days from the date of its document; usual here are up to 14',
  ]);
  expect(reasons('2026-07-20', null, '2026-08-20')).toEqual([
    'entered 31 days from the day it is booked on; usual here are up to 3',
  ]);
  // Twice the usual, and ten days, are nothing.
  expect(reasons('2026-07-29', '2026-07-01', '2026-08-08')).toEqual([]);
  // Where nothing is usual nothing is unusual.
  expect(outOfPlace(line('2027-06-11', '2026-06-11'), { document: null, entered: null }, NONE)).toEqual([]);
});

test('a date far from those of the numbers before and after does not belong, but ordinary ones of the same days do', () => {
  const near = { before: ['2026-06-11', '2026-06-10'], after: ['2026-06-12', '2026-06-12'] };
  const reasons = (day: string, neighbours = near) => outOfPlace(line(day), USUAL, neighbours);
  expect(reasons('2026-06-11')).toEqual([]);
  expect(reasons('2026-06-20')).toEqual([]);
  expect(reasons('2027-06-11')).toEqual(['dated 364 days from the entries with the numbers before and after its own']);
  expect(reasons('2026-03-01')).toEqual(['dated 102 days from the entries with the numbers before and after its own']);
  // One neighbour that is out of place itself does not make this one so, nor hide it.
  expect(reasons('2026-06-11', { ...near, before: ['2025-06-11', '2026-06-10'] })).toEqual([]);
  expect(reasons('2027-06-11', { ...near, before: ['2025-06-11', '2026-06-10'] })).toHaveLength(1);
  // The last of a series, and a series whose numbers follow no days, tell nothing.
  expect(reasons('2027-06-11', { before: ['2026-06-11'], after: [] })).toEqual([]);
  expect(reasons('2026-09-01', { before: ['2026-01-05'], after: ['2026-06-30'] })).toEqual([]);
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
