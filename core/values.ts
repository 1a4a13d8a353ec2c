import { collapsed, patternOf } from './pattern';

/**
 * What a clause asks of a value of a line, as it is written: the value itself; `INV-*` with * for any run of characters
 * and ? for one; `2026-07-01..2026-07-31` between two ends, both inclusive, either of which may be left open; `~is:…`
 * for the value that follows, whatever it is made of.
 */
export type ValueTest = string;

/** Values between two ends, both inclusive; null: open. */
export interface Range {
  from: string | null;
  to: string | null;
}

const EXACTLY = '~is:';

/** A value as a clause that asks for it and for nothing else. */
export const exactly = (value: string): ValueTest =>
  isPattern(value) || rangeOf(value) || value.startsWith('~') ? EXACTLY + value : value;

/** The one value that is wanted; null where several may fit. */
export function oneValue(wanted: ValueTest): string | null {
  if (wanted.startsWith(EXACTLY)) return wanted.slice(EXACTLY.length);
  return isPattern(wanted) || rangeOf(wanted) ? null : wanted;
}

export const isPattern = (wanted: ValueTest): boolean => !wanted.startsWith(EXACTLY) && /[*?]/.test(wanted);

/** `a..b`, `a..` or `..b` as its ends. */
export function rangeOf(wanted: ValueTest): Range | null {
  if (wanted.startsWith(EXACTLY)) return null;
  const match = /^(.*?)\.\.(.*)$/s.exec(wanted);
  if (!match || (match[1] === '' && match[2] === '')) return null;
  return { from: match[1] || null, to: match[2] || null };
}

/** Does a value of a line (null: none) satisfy what a clause asks? */
export const valuePicked = (any: readonly (ValueTest | null)[], value: string | null): boolean =>
  any.some((wanted) => {
    if (wanted === null || value === null) return wanted === value;
    if (oneValue(wanted) === value) return true;
    if (isPattern(wanted)) return patternOf(collapsed(wanted)).test(value);
    const range = rangeOf(wanted);
    return range !== null && between(value, range);
  });

/**
 * How text is compared with the ends of a range: as numbers where they are digits, as dates, of which each takes the
 * whole of its day or month with it, as codes of one length where they are equally long, else letter by letter.
 */
export type Comparison = 'digits' | 'dates' | 'codes' | 'letters';

export function comparisonOf({ from, to }: Range): Comparison {
  const ends = [from, to].filter((end) => end !== null);
  if (ends.every((end) => /^\d+$/.test(end))) return 'digits';
  if (ends.every((end) => /^\d{4}-\d\d(-\d\d)?$/.test(end))) return 'dates';
  return from !== null && to !== null && from.length === to.length ? 'codes' : 'letters';
}

function between(value: string, range: Range): boolean {
  const { from, to } = range;
  switch (comparisonOf(range)) {
    case 'digits':
      return (
        /^\d+$/.test(value) &&
        (from === null || BigInt(value) >= BigInt(from)) &&
        (to === null || BigInt(value) <= BigInt(to))
      );
    case 'dates':
      return (from === null || value >= from) && (to === null || value <= to || value.startsWith(to));
    case 'codes':
      return value.length === (from as string).length && value >= (from as string) && value <= (to as string);
    case 'letters':
      return (from === null || value >= from) && (to === null || value <= to);
  }
}

/** Less than, equal to or more than nothing as one decimal is less than, equal to or more than another. Exact. */
export function compareDecimals(a: string, b: string): number {
  const [x, y] = [parts(a), parts(b)];
  const scale = Math.max(x.scale, y.scale);
  const [m, n] = [x.units * 10n ** BigInt(scale - x.scale), y.units * 10n ** BigInt(scale - y.scale)];
  return m < n ? -1 : m > n ? 1 : 0;
}

/** Does a number of a line (null: none) lie in one of the ranges? */
export const numberPicked = (any: readonly (Range | null)[], value: string | null): boolean =>
  any.some((range) => {
    if (range === null || value === null) return range === value;
    return (
      (range.from === null || compareDecimals(value, range.from) >= 0) &&
      (range.to === null || compareDecimals(value, range.to) <= 0)
    );
  });

function parts(decimal: string): { units: bigint; scale: number } {
  const match = /^([+-]?)(\d+)(?:\.(\d*))?$/.exec(decimal.trim());
  if (!match) throw new RangeError(`“${decimal}” is no number`);
  const [, sign, whole = '', fraction = ''] = match;
  const units = BigInt(whole + fraction);
  return { units: sign === '-' ? -units : units, scale: fraction.length };
}
