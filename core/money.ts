/**
 * Money in integer minor units (method.md §1). A Minor is a safe integer: 1,234.50 pounds is 123450.
 * Nothing here ever rounds an amount; whatever would leave the range of exact integers is an error.
 */
export type Minor = number;

export class AmountRangeError extends Error {
  constructor(what: string) {
    super(`amount beyond the exact range of 2^53 minor units: ${what}`);
    this.name = 'AmountRangeError';
  }
}

export class AmountFormatError extends Error {
  constructor(message: string) {
    super(message);
    this.name = 'AmountFormatError';
  }
}

/** Asserts that n is an exact integer amount. @throws AmountRangeError */
export function exact(n: number): Minor {
  if (!Number.isSafeInteger(n)) throw new AmountRangeError(String(n));
  return n === 0 ? 0 : n; // −0 is no amount
}

/** a + b, exact. @throws AmountRangeError */
export const add = (a: Minor, b: Minor): Minor => exact(a + b);

/** Σ of amounts, exact. @throws AmountRangeError */
export const sum = (amounts: Iterable<Minor>): Minor => {
  let total = 0;
  for (const amount of amounts) total = add(total, amount);
  return total;
};

/** Of several differences the one that is furthest from nothing, with its sign; 0 of none. */
export const furthestOff = (differences: readonly Minor[]): Minor =>
  differences.reduce((worst, d) => (Math.abs(d) > Math.abs(worst) ? d : worst), 0);

/**
 * Digits after the decimal point of an ISO 4217 currency (JPY 0, GBP 2, KWD 3), from the runtime's CLDR data.
 * @throws RangeError for something that is not a three-letter code
 */
export function exponentOf(currency: string): number {
  const known = exponents.get(currency);
  if (known !== undefined) return known;
  const digits = new Intl.NumberFormat('en', { style: 'currency', currency }).resolvedOptions()
    .maximumFractionDigits as number;
  exponents.set(currency, digits);
  return digits;
}
const exponents = new Map<string, number>();

/** Whether a text is a currency code as in ISO 4217: three capital letters that the runtime takes for one. */
export function isCurrency(code: string): boolean {
  try {
    return /^[A-Z]{3}$/.test(code) && exponentOf(code) >= 0;
  } catch {
    return false;
  }
}

/**
 * Reads a decimal string ("-1200.50") as minor units of a currency with that exponent.
 * @throws AmountFormatError when it is no number or has more decimals than the currency
 * @throws AmountRangeError beyond 2^53
 */
export function parseAmount(text: string, exponent: number): Minor {
  const match = /^([+-]?)(\d+)(?:\.(\d*))?$/.exec(text.trim());
  if (!match) throw new AmountFormatError(`“${text}” is not an amount; write it like -1200.50`);
  const [, sign, whole = '', fraction = ''] = match;
  const kept = fraction.replace(/0+$/, '');
  if (kept.length > exponent) {
    throw new AmountFormatError(
      `“${text}” has ${kept.length} decimals, the currency has ${exponent === 0 ? 'none' : exponent}`,
    );
  }
  const digits = (whole + kept.padEnd(exponent, '0')).replace(/^0+(?=\d)/, '');
  if (digits.length > 16) throw new AmountRangeError(text);
  const value = Number(digits);
  if (!Number.isSafeInteger(value)) throw new AmountRangeError(text);
  return exact(sign === '-' ? -value : value);
}

/** Writes minor units as a decimal string with the currency's decimals: −120050, 2 → "-1200.50". */
export function formatAmount(amount: Minor, exponent: number): string {
  const digits = String(Math.abs(exact(amount))).padStart(exponent + 1, '0');
  const whole = digits.slice(0, digits.length - exponent);
  const sign = amount < 0 ? '-' : '';
  return exponent === 0 ? sign + whole : `${sign}${whole}.${digits.slice(-exponent)}`;
}

/**
 * Splits an amount over weights so that the parts sum to it exactly: each part is the floor of its share,
 * and the units left over go to the largest remainders, earlier parts first (largest-remainder method).
 * @param weights non-negative integers, at least one above zero
 */
export function allot(amount: Minor, weights: readonly Minor[]): Minor[] {
  const total = weights.reduce((a, w) => a + BigInt(w), 0n);
  if (total <= 0n || weights.some((w) => w < 0)) throw new RangeError('weights must be positive');
  const negative = amount < 0;
  const size = BigInt(Math.abs(exact(amount)));
  const parts = weights.map((w) => (size * BigInt(w)) / total);
  const remainders = weights.map((w, at) => ({ at, rest: (size * BigInt(w)) % total }));
  let left = size - parts.reduce((a, p) => a + p, 0n);
  remainders.sort((a, b) => (a.rest === b.rest ? a.at - b.at : a.rest > b.rest ? -1 : 1));
  for (const { at } of remainders) {
    if (left === 0n) break;
    parts[at] = (parts[at] as bigint) + 1n;
    left -= 1n;
  }
  return parts.map((p) => exact(Number(negative ? -p : p)));
}

/**
 * What one unit comes to: amount over quantity, rounded once, half away from zero.
 * @param quantity a decimal, such as "-12.5"
 * @returns minor units, null for a quantity of nothing
 */
export function perUnit(amount: Minor, quantity: string): Minor | null {
  const [whole = '0', fraction = ''] = quantity.replace(/^-/, '').split('.');
  const units = BigInt(whole + fraction);
  if (units === 0n) return null;
  const scaled = BigInt(Math.abs(exact(amount))) * 10n ** BigInt(fraction.length);
  const size = exact(Number((scaled * 2n + units) / (units * 2n)));
  return amount < 0 !== quantity.startsWith('-') && size !== 0 ? -size : size;
}

/**
 * What amounts come to, as decimal strings of the most decimals among them. The average is rounded half away from zero.
 * @returns null where there are none
 */
export function summary(
  amounts: readonly string[],
): { sum: string; average: string; least: string; greatest: string } | null {
  if (amounts.length === 0) return null;
  const digits = Math.max(...amounts.map((a) => a.split('.')[1]?.length ?? 0));
  const minor = amounts.map((a) => parseAmount(a, digits));
  const whole = sum(minor);
  const text = (amount: Minor): string => formatAmount(amount, digits);
  return {
    sum: text(whole),
    average: text(perUnit(whole, String(amounts.length)) ?? 0),
    least: text(minor.reduce((a, b) => Math.min(a, b))),
    greatest: text(minor.reduce((a, b) => Math.max(a, b))),
  };
}

/** The balance after each movement, as decimal strings of the opening's decimals. */
export function runningBalances(opening: string, movements: readonly string[]): string[] {
  const digits = opening.split('.')[1]?.length ?? 0;
  let balance = parseAmount(opening, digits);
  return movements.map((movement) => {
    balance = add(balance, parseAmount(movement, digits));
    return formatAmount(balance, digits);
  });
}

/** By how much an amount is more than another of as many decimals, as a decimal string. */
export function change(amount: string, before: string): string {
  const digits = amount.split('.')[1]?.length ?? 0;
  return formatAmount(add(parseAmount(amount, digits), -parseAmount(before, digits)), digits);
}
