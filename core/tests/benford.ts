import chisquareCdf from '@stdlib/stats-base-dists-chisquare-cdf';
import type { Minor } from '../money';

/** Benford’s law: with which digits amounts of many sizes begin, and how far some amounts are from it. */

/** Shares of the digits 1 to 9: log10(1 + 1/d). */
export const EXPECTED_FIRST: readonly number[] = Array.from({ length: 9 }, (_, i) => Math.log10(1 + 1 / (i + 1)));
/** Shares of the first two digits 10 to 99, by the same rule. */
export const EXPECTED_TWO: readonly number[] = Array.from({ length: 90 }, (_, i) => Math.log10(1 + 1 / (i + 10)));

/** Bands of the mean absolute deviation of first digits (M. Nigrini, Benford’s Law, Wiley 2012; from memory). */
export const NIGRINI_FIRST = { close: 0.006, acceptable: 0.012, marginal: 0.015 } as const;
/** The same of the first two digits. */
export const NIGRINI_TWO = { close: 0.0012, acceptable: 0.0018, marginal: 0.0022 } as const;

export const bandOf = (mad: number, bands: { close: number; acceptable: number; marginal: number }): string =>
  mad <= bands.close
    ? 'close conformity'
    : mad <= bands.acceptable
      ? 'acceptable conformity'
      : mad <= bands.marginal
        ? 'marginally acceptable conformity'
        : 'nonconformity';

/** The first digit of an amount in minor units; 0 of nothing. */
export const firstDigit = (amount: Minor): number => Number(String(Math.abs(amount)).charAt(0));
/** Its first two digits; 0 where it has only one. */
export const firstTwo = (amount: Minor): number =>
  Math.abs(amount) < 10 ? 0 : Number(String(Math.abs(amount)).slice(0, 2));

/** How often each comes, from 1 or 10 on. @param many 1 or 2 digits */
export function digitsOf(digits: readonly number[], many: 1 | 2): number[] {
  const [from, size] = many === 1 ? [1, 9] : [10, 90];
  const counts = new Array<number>(size).fill(0);
  for (const digit of digits) if (digit >= from) counts[digit - from] = (counts[digit - from] as number) + 1;
  return counts;
}

/**
 * How far counts are from expected shares: the mean absolute deviation of shares, chi-square with one degree of freedom
 * less than there are digits, and how likely as much or more of it is by chance.
 */
export function measuresOf(counts: readonly number[], expected: readonly number[]) {
  const total = counts.reduce((a, b) => a + b, 0);
  const mad =
    total === 0
      ? 0
      : counts.reduce((sum, n, i) => sum + Math.abs(n / total - (expected[i] as number)), 0) / counts.length;
  const chiSquare =
    total === 0
      ? 0
      : counts.reduce(
          (sum, n, i) => sum + (n - total * (expected[i] as number)) ** 2 / (total * (expected[i] as number)),
          0,
        );
  return { total, mad, chiSquare, likely: total === 0 ? 1 : 1 - chisquareCdf(chiSquare, counts.length - 1) };
}
