import { add, type Minor, parseAmount } from './money';

/** Which rows a sheet marks as standing out (method.md §11); null switches a rule off. */
export interface MarkRules {
  /** Beyond both: an amount in minor units, and a percentage of what was there before. */
  change: { amount: Minor; percent: number } | null;
  /** A balance on the side that is unusual for its account. */
  wrongSide: boolean;
  /** An income or expense account without movement, where each of so many periods before had some. */
  silent: { periods: number } | null;
  /** A figure of at least so much, in minor units. */
  material: Minor | null;
  /** A share of the base row that is off the year to date’s by so many percentage points. */
  share: { points: number } | null;
}

export type MarkRule = keyof MarkRules;

/** Whether a figure moved beyond both limits; from nothing to something counts as beyond any percentage. */
export function changedBeyond(
  now: Minor,
  before: Minor,
  { amount, percent }: { amount: Minor; percent: number },
): boolean {
  const change = Math.abs(add(now, -before));
  return change >= amount && change > 0 && BigInt(change) * 100n >= BigInt(Math.abs(before)) * BigInt(percent);
}

/** Whether a closing balance is on the other side than its account’s usual one. */
export const onWrongSide = (closing: Minor, normal: 'debit' | 'credit'): boolean =>
  normal === 'debit' ? closing < 0 : closing > 0;

/**
 * Whether nothing moved where something always did.
 * @param before counts of lines of the periods before, all of the history asked for
 */
export const fellSilent = (count: number, before: readonly number[], periods: number): boolean =>
  count === 0 && before.length === periods && before.every((n) => n > 0);

/** Whether two shares, in millionths, lie so many percentage points apart. */
export const outOfLine = (share: number | null, usual: number | null, points: number): boolean =>
  share !== null && usual !== null && Math.abs(share - usual) >= points * 10_000;

/** Whether a balance is within the limits of a condition of one's own, which are written as decimals; debit is positive. */
export const meets = (
  { least, most }: { least: string | null; most: string | null },
  value: Minor,
  digits: number,
): boolean =>
  (least === null || value >= parseAmount(least, digits)) && (most === null || value <= parseAmount(most, digits));
