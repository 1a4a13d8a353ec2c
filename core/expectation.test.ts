import { expect, test } from 'vitest';
import { averageOf, grownBy, percentOf, priced, weighed } from './expectation';

test('percents, averages and prices are exact, and rounded once, half away from zero', () => {
  expect(percentOf(61_200_000, '3')).toBe(1_836_000);
  expect(percentOf(1, '50')).toBe(1);
  expect(percentOf(-1, '50')).toBe(-1);
  expect(percentOf(1, '49.9999')).toBe(0);
  expect(percentOf(9_007_199_254_740_991, '100')).toBe(9_007_199_254_740_991);
  expect(grownBy(-10_000, '-2.5')).toBe(-9_750);
  expect(averageOf(100 + 101, 2, 1)).toBe(101);
  expect(averageOf(100 + 101 + 103, 3, 3)).toBe(304);
  expect(averageOf(0, 0, 3)).toBeNull();
  // 1,200.5 hours at 41.35 pounds; and in a currency that has no decimals.
  expect(priced('1200.5', '41.35', 2)).toBe(4_964_068);
  expect(priced('3', '0.5', 0)).toBe(2);
  expect(priced('-3', '0.5', 0)).toBe(-2);
});

test('a difference needs explaining where it is as large as what may be left, until parts explain it', () => {
  expect(weighed(820_400, 612_000, 208_400, [])).toEqual({
    ...{ difference: 208_400, explained: 0, left: 208_400, stands: true, needs: true },
  });
  expect(weighed(820_400, 612_000, 208_401, [])).toMatchObject({ stands: false, needs: false });
  expect(weighed(820_400, 612_000, 10_000, [200_000])).toMatchObject({ left: 8_400, stands: true, needs: false });
  // What explains too much is not explained either.
  expect(weighed(820_400, 612_000, 10_000, [230_000])).toMatchObject({ left: -21_600, needs: true });
  // Nothing is no difference, however little may be left.
  expect(weighed(5, 5, 0, [])).toMatchObject({ stands: false, needs: false });
});
