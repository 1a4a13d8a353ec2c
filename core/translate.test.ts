import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { columnLabel, derived, readColumn, withBases } from './columns';
import { addCommitment, addToPosition, emptyPosition } from './position';
import { similarNames } from './similarNames';
import { MissingRateError, type Rate, ratesOf, translated } from './translate';

const rate = (date: string, kind: Rate['kind'], text: string, from = 'NOK', to = 'GBP'): Rate => ({
  date,
  from,
  to,
  kind,
  rate: text,
});

describe('translation', () => {
  test('rounds once, half away from zero, and between currencies of other decimals', () => {
    const one = { over: 1n, under: 1n };
    const half = { over: 1n, under: 2n };
    expect([
      translated(1, half, { from: 2, to: 2 }),
      translated(-1, half, { from: 2, to: 2 }),
      translated(3, half, { from: 2, to: 2 }),
    ]).toEqual([1, -1, 2]);
    expect(translated(12_345, one, { from: 2, to: 0 })).toBe(123);
    expect(translated(123, one, { from: 0, to: 3 })).toBe(123_000);
  });

  test('is off from the exact amount by half a unit at the most, and there and back by little', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -1e12, max: 1e12 }),
        fc.integer({ min: 1, max: 9_999_999 }),
        (amount, millionths) => {
          const fraction = { over: BigInt(millionths), under: 1_000_000n };
          const there = BigInt(translated(amount, fraction, { from: 2, to: 2 }));
          const off = there * 2_000_000n - BigInt(amount) * 2n * BigInt(millionths);
          expect(off <= 1_000_000n && off >= -1_000_000n).toBe(true);
        },
      ),
    );
  });

  test('the closing rate is the last up to a day, the average one within its period, either way round', () => {
    const rates = ratesOf([
      rate('2026-01-31', 'closing', '0.08'),
      rate('2026-02-28', 'closing', '0.09'),
      rate('2026-01-31', 'average', '0.085'),
      rate('2026-03-31', 'closing', '10', 'GBP', 'NOK'),
    ]);
    const to = (f: { over: bigint; under: bigint }): number => translated(1_000_000, f, { from: 2, to: 2 });
    expect(to(rates.closing('NOK', 'GBP', '2026-02-15'))).toBe(80_000);
    expect(to(rates.closing('NOK', 'GBP', '2026-02-28'))).toBe(90_000);
    expect(to(rates.closing('NOK', 'GBP', '2026-12-31'))).toBe(100_000);
    expect(to(rates.average('NOK', 'GBP', '2026-01-01', '2026-01-31'))).toBe(85_000);
    expect(to(rates.closing('GBP', 'GBP', '2020-01-01'))).toBe(1_000_000);
    expect(() => rates.average('NOK', 'GBP', '2026-02-01', '2026-02-28')).toThrow(MissingRateError);
    expect(() => rates.closing('NOK', 'GBP', '2026-01-30')).toThrow(
      /no closing rate from NOK to GBP on or before 2026-01-30/,
    );
  });
});

describe('columns', () => {
  test('those that others are made of come first, each once, the window always', () => {
    const wanted = ['change%:year-before', 'variance:B1', 'share:ytd'].map(readColumn);
    expect(withBases(wanted).map((c) => c.key)).toEqual([
      'window',
      'year-before',
      'change%:year-before',
      'budget:B1',
      'variance:B1',
      'ytd',
      'share:ytd',
    ]);
    expect(columnLabel(readColumn('change:ytd-before/ytd'))).toBe('Change from year to date, year before');
    for (const text of ['', 'budget:', 'change', 'yesterday', 'share%'])
      expect(() => readColumn(text)).toThrow(/is no column/);
  });

  test('a percentage of nothing is empty; a change from a negative base keeps its direction', () => {
    const values: Record<string, number> = { window: 150, 'year-before': -100, ytd: 0 };
    const of = (key: string) => (key in values ? { is: 'amount' as const, amount: values[key] as number } : undefined);
    expect(derived(readColumn('own|Both|+window|+year-before|-change:year-before'), of, of)).toEqual({
      is: 'amount',
      amount: -200,
    }); // 150 − 100 − 250
    expect(derived(readColumn('own|Ratio|window|/|year-before'), of, of)).toEqual({
      is: 'share',
      millionths: -1_500_000,
    });
    expect(withBases([readColumn('own|Both|+window|-change:last-year')]).map((c) => c.key)).toEqual([
      'window',
      'last-year',
      'change:last-year',
      'own|Both|+window|-change:last-year',
    ]);
    for (const text of ['own|', 'own|A', 'own|A|+nothing', 'own|A|window|/', 'own||+window'])
      expect(() => readColumn(text)).toThrow(/is no column/);
    expect(derived(readColumn('change:year-before'), of, of)).toEqual({ is: 'amount', amount: 250 });
    expect(derived(readColumn('change%:year-before'), of, of)).toEqual({ is: 'share', millionths: 2_500_000 });
    expect(derived(readColumn('change%:ytd'), of, of)).toEqual({ is: 'share', millionths: null });
    expect(derived(readColumn('change:last-year'), of, of)).toBeNull();
  });
});

test('a position adds up as the trade reckons it, whatever is booked in whatever order', () => {
  const booking = fc.record({
    type: fc.constantFrom('income' as const, 'expense' as const, 'equity' as const),
    lies: fc.constantFrom('before' as const, 'year' as const, 'window' as const),
    amount: fc.integer({ min: -1e9, max: 1e9 }),
  });
  fc.assert(
    fc.property(fc.array(booking), fc.array(fc.tuple(fc.nat(1e9), fc.boolean())), (bookings, orders) => {
      const p = emptyPosition();
      for (const b of bookings) addToPosition(p, b.type, b.lies, b.amount);
      for (const [amount, later] of orders) addCommitment(p, amount, later);
      expect(p.current).toBe(p.opening + p.adjustments + p.received - p.spent);
      expect(p.current + bookings.reduce((sum, b) => sum + b.amount, 0)).toBe(0);
      expect(p.available).toBe(p.current - orders.reduce((sum, [amount]) => sum + amount, 0));
    }),
  );
});

test('names that say the same in other words or another order are alike, those of other types are not', () => {
  const account = (code: string, name: string, type = 'income') => ({ code, name, type });
  const chart = [
    account('1', 'Café sales'),
    account('2', 'Sales of café'),
    account('3', 'Freight'),
    account('4', 'Sales, café', 'expense'),
    account('5', 'Grants'),
  ];
  expect(similarNames(chart)).toEqual([['1', '2']]);
});
