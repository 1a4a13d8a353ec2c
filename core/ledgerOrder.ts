import { type DateText, daysBetween } from './dates';

/**
 * Lines whose date does not belong (method.md §8): that of their document, the day they were entered, or the number of their
 * entry disagrees with the day they are booked on by more than is usual in the account.
 */

/** By how many days the lines of an account usually differ at the most: nineteen of twenty do not by more. */
export interface UsualDays {
  /** From the date of their document; null where too few have one. */
  document: number | null;
  /** From the day they were entered. */
  entered: number | null;
}

/** A line's own dates. */
export interface DatedLine {
  day: DateText;
  documentDate: DateText | null;
  enteredOn: DateText | null;
}

/** Days of the entries before and after in the series of its number, the nearest first. */
export interface Neighbours {
  before: readonly DateText[];
  after: readonly DateText[];
}

/** Nobody wonders at so many days, however few are usual. */
const UNREMARKABLE_DAYS = 10;
/** So many times what is usual is more than usual. */
const TIMES = 2;

const beyond = (days: number, usual: number): boolean => days > UNREMARKABLE_DAYS && days > usual * TIMES;

const usually = (days: number): string => (days === 0 ? 'usual here is the same day' : `usual here are up to ${days}`);

/** Why the date of a line does not belong, as sentences; none where it does. */
export function outOfPlace(line: DatedLine, usual: UsualDays, { before, after }: Neighbours): string[] {
  const reasons: string[] = [];
  const lag = (of: DateText | null): number | null => (of === null ? null : Math.abs(daysBetween(of, line.day)));
  const document = lag(line.documentDate);
  if (document !== null && usual.document !== null && beyond(document, usual.document))
    reasons.push(`booked ${document} days from the date of its document; ${usually(usual.document)}`);
  const entered = lag(line.enteredOn);
  if (entered !== null && usual.entered !== null && beyond(entered, usual.entered))
    reasons.push(`entered ${entered} days from the day it is booked on; ${usually(usual.entered)}`);
  const span = spanOf(before, after);
  const apart = span === null ? 0 : outside(line.day, span);
  if (span !== null && beyond(apart, daysBetween(span.first, span.last)))
    reasons.push(`dated ${apart} days from the entries with the numbers before and after its own`);
  return reasons;
}

/** From when to when the neighbours are, but for the two that are furthest apart: one of them may be out of place itself. */
function spanOf(before: readonly DateText[], after: readonly DateText[]): { first: DateText; last: DateText } | null {
  if (before.length === 0 || after.length === 0) return null;
  const days = [...before, ...after].sort();
  const cut = days.length > NEAR_LEAST ? 1 : 0;
  const [first, last] = [days[cut], days.at(-1 - cut)];
  return first && last ? { first, last } : null;
}

/** Of fewer neighbours none can be spared. */
const NEAR_LEAST = 3;

const outside = (day: DateText, { first, last }: { first: DateText; last: DateText }): number =>
  day < first ? daysBetween(day, first) : day > last ? daysBetween(last, day) : 0;
