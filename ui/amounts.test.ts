import { expect, test } from 'vitest';
import { amountText, isZero } from './amounts';

test('amounts read as in print: negatives in brackets, nothing as a dash, never a rounded digit', () => {
  // Grouping and decimal mark are the viewer's; here those of this machine.
  const local = (amount: number): string => new Intl.NumberFormat(undefined, { minimumFractionDigits: 2 }).format(amount);
  expect(['-1200.50', '0.00', '-0.00', '1234567.80', '500', ''].map(amountText)).toEqual([`(${local(1200.5)})`, '–', '–', local(1234567.8), '500', '–']);
  expect(amountText('90071992547409.91').replace(/\D/g, '')).toBe('9007199254740991');
  expect(isZero('0.01')).toBe(false);
});
