import { expect, test } from 'vitest';
import { ageBand, bandNames, daysPast, type OpenItem, openOf } from './openItems';

const item = (type: string, amount: number, more: Partial<OpenItem> = {}): OpenItem => ({
  type,
  date: '2026-03-01',
  due: '2026-03-31',
  amount,
  settled: 0,
  settledHere: 0,
  settles: 0,
  ...more,
});

// Common practice, worked by hand: a control account is the sum of what is open on it.
test('open documents add up to their control account, whichever way they settle each other', () => {
  // An invoice of 1,000.00 of which 600.00 is paid by a payment of 750.00: 400.00 is owed, 150.00 is on account.
  expect(
    [item('invoice', 100_000, { settled: 60_000 }), item('payment', 75_000, { settles: 60_000 })].map(openOf),
  ).toEqual([40_000, -15_000]);
  // A credit note of 200.00 refunded: the ledger has −200.00 and +200.00, nothing is open.
  expect(
    [
      item('credit note', 20_000, { settled: 20_000, settledHere: 20_000 }),
      item('refund', 20_000, { settles: 20_000 }),
    ].map(openOf),
  ).toEqual([0, 0]);
  // A receipt taken to the bank in a deposit is no more open for that.
  expect(openOf(item('receipt', 50_000, { settles: 50_000, settled: 50_000 }))).toBe(0);
});

test('a document is not due up to its due date, and ages from the day after', () => {
  const invoice = item('invoice', 1);
  const band = (at: string, by: 'due' | 'document' = 'due'): string | undefined =>
    bandNames()[ageBand(daysPast(invoice, at, by))];
  expect(
    ['2026-03-31', '2026-04-01', '2026-04-30', '2026-05-01', '2026-07-29', '2026-07-30'].map((at) => band(at)),
  ).toEqual(['not due', '1–30 days', '1–30 days', '31–60 days', '91–120 days', '121 days and more']);
  expect(band('2026-03-31', 'document')).toBe('1–30 days');
  expect(daysPast({ ...invoice, due: null }, '2026-03-11', 'due')).toBe(10);
});
