import { add, exact, type Minor } from './money';

/**
 * What a figure is expected to be before it is looked at, and whether the difference needs explaining (ISA 520.5, 520.7):
 * the expectation, how far off it may be, and what explains the rest.
 */

/** Percents have so many decimals at the most. */
const PERCENT_DIGITS = 4;
export const PERCENT = new RegExp(`^-?\\d{1,6}(\\.\\d{1,${PERCENT_DIGITS}})?$`);
/** Quantities and prices of a unit. */
export const QUANTITY = /^-?\d{1,12}(\.\d{1,6})?$/;

/** A decimal as a whole number of its last place, and how many places it has. */
function scaled(text: string): { units: bigint; scale: bigint } {
  const [whole = '0', fraction = ''] = text.replace('-', '').split('.');
  const units = BigInt(whole + fraction);
  return { units: text.startsWith('-') ? -units : units, scale: 10n ** BigInt(fraction.length) };
}

/** Rounded once, half away from zero. */
function rounded(units: bigint, scale: bigint): Minor {
  const size = ((units < 0n ? -units : units) * 2n + scale) / (scale * 2n);
  const found = exact(Number(size));
  return units < 0n && found !== 0 ? -found : found;
}

/** So many percent of an amount; percents as a decimal, such as "12.5". */
export function percentOf(amount: Minor, percent: string): Minor {
  const { units, scale } = scaled(percent);
  return rounded(BigInt(exact(amount)) * units, scale * 100n);
}

/** An amount grown by so many percent. */
export const grownBy = (amount: Minor, percent: string): Minor => add(amount, percentOf(amount, percent));

/** The average of so many whose sum is known, times so many of them; null of none. */
export const averageOf = (sum: Minor, many: number, times: number): Minor | null =>
  many === 0 ? null : rounded(BigInt(exact(sum)) * BigInt(times), BigInt(many));

/** A quantity at a price for one of it; the price in units of the currency. @param digits decimals of the currency */
export function priced(quantity: string, price: string, digits: number): Minor {
  const [q, p] = [scaled(quantity), scaled(price)];
  return rounded(q.units * p.units * 10n ** BigInt(digits), q.scale * p.scale);
}

/** How an expectation came out. */
export interface Weighed {
  /** Actual less expected. */
  difference: Minor;
  /** What the parts that explain it come to. */
  explained: Minor;
  /** What is left to be explained. */
  left: Minor;
  /** Whether the difference is as large as what may be left unexplained, or larger. */
  stands: boolean;
  /** Whether what is left still is. */
  needs: boolean;
}

/** @param least a difference of so much needs explaining */
export function weighed(actual: Minor, expected: Minor, least: Minor, parts: readonly Minor[]): Weighed {
  const difference = add(actual, -expected);
  const explained = parts.reduce((sum, part) => add(sum, part), 0);
  const left = add(difference, -explained);
  const large = (amount: Minor): boolean => amount !== 0 && Math.abs(amount) >= least;
  return { difference, explained, left, stands: large(difference), needs: large(left) };
}
