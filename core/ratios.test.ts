import { expect, test } from 'vitest';
import { ratiosOf } from './ratios';

// Worked by hand: assets 1,000, of which current 300; liabilities 600, of which current 150; equity brought forward 300;
// income 500, expense 400, so that the result is 100 and equity with it 400.
const standing = {
  assets: 100_000,
  liabilities: -60_000,
  equity: -30_000,
  income: -50_000,
  expense: 40_000,
  current: { assets: 30_000, liabilities: -15_000 },
};
const percents = (of: typeof standing | (Omit<typeof standing, 'current'> & { current: null })) =>
  Object.fromEntries(ratiosOf(of).map((r) => [r.key, r.millionths === null ? null : r.millionths / 10_000]));

test('ratios of a company are what they come to by hand', () => {
  expect(percents(standing)).toEqual({
    ...{ margin: 20, equity: 40, gearing: 150, 'on-equity': 25, 'on-assets': 10, current: 200 },
  });
});

test('over nothing there is none, a loss is below nothing, and what the chart does not tell apart is not guessed', () => {
  const loss = percents({ ...standing, income: 0, equity: -80_000, current: null });
  expect(loss).toEqual({ margin: null, equity: 40, gearing: 150, 'on-equity': -100, 'on-assets': -40 });
});
