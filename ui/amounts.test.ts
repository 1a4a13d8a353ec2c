import { expect, test } from 'vitest';
import { amountText, enteredText, isZero, scaledText } from './amounts';

test('amounts read as in print: negatives in brackets, nothing as a dash, never a rounded digit', () => {
  // Grouping and decimal mark are the viewer's; here those of this machine.
  const local = (amount: number): string =>
    new Intl.NumberFormat(undefined, { minimumFractionDigits: 2 }).format(amount);
  expect(['-1200.50', '0.00', '-0.00', '1234567.80', '500', ''].map(amountText)).toEqual([
    `(${local(1200.5)})`,
    '–',
    '–',
    local(1234567.8),
    '500',
    '–',
  ]);
  expect(amountText('90071992547409.91').replace(/\D/g, '')).toBe('9007199254740991');
  expect(isZero('0.01')).toBe(false);
});

test('without decimals and in thousands amounts are rounded once, half away from zero, and exact ones never', () => {
  const digits = (text: string): string => text.replace(/[^\d()–]/g, '');
  expect(['1499.49', '1500.50', '-1500.50', '0.49', '-0.50'].map((a) => digits(scaledText(a, 'whole')))).toEqual([
    '1499',
    '1501',
    '(1501)',
    '–',
    '(1)',
  ]);
  expect(
    ['1499.99', '1500.00', '-1500', '499.99', '90071992547409.91'].map((a) => digits(scaledText(a, 'thousands'))),
  ).toEqual(['1', '2', '(2)', '–', '90071992547']);
  expect(digits(scaledText('90071992547409.91', 'exact'))).toBe('9007199254740991');
});

test('when something was entered is read as the ledger writes it, and left alone where that is no time', () => {
  expect(enteredText('2026-07-03T17:51')).toBe('3 Jul 2026, 17:51');
  expect(enteredText('2026-07-03 17:51:09+02:00')).toBe('3 Jul 2026, 17:51');
  expect(enteredText('2026-07-03')).toBe('3 Jul 2026');
  expect(enteredText('on Friday')).toBe('on Friday');
});
