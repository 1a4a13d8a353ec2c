import type { Calendar } from './calendar';
import { addDays, daysBetween, mondayOf, weekOf } from './dates';
import type { Split, Window } from './figure';
import { memberOrder, pathKey, type SplitParts, type SplitRow } from './split';

/** A row of sheets that are split alike, side by side: one of each sheet, null where a sheet has no such row. */
export interface AlignedRow {
  member: string;
  path: string[];
  depth: number;
  rows: (SplitRow | null)[];
}

/** Rows of several sheets of the same splits beside each other, in reading order; whoever is in one of them has a row. */
export function alignedRows(sheets: readonly SplitParts[], splits: readonly Split[]): AlignedRow[] {
  const found = sheets.map((sheet) => new Map(sheet.rows.map((row) => [pathKey(row.path), row])));
  const paths = new Map(
    sheets.flatMap((sheet) => sheet.rows.map((row): [string, string[]] => [pathKey(row.path), row.path])),
  );
  return [...paths.values()]
    .sort((a, b) => inReadingOrder(a, b, splits))
    .map((path) => ({
      member: path[path.length - 1] as string,
      path,
      depth: path.length - 1,
      rows: found.map((rows) => rows.get(pathKey(path)) ?? null),
    }));
}

/** A row comes before what is beneath it. */
function inReadingOrder(a: string[], b: string[], splits: readonly Split[]): number {
  for (const [level, key] of a.entries()) {
    const other = b[level];
    if (other === undefined) return 1;
    const order = memberOrder(splits[level] as Split, key, other);
    if (order !== 0) return order;
  }
  return a.length - b.length;
}

const TIMES = ['period', 'month', 'week', 'day'] as const;
type Time = (typeof TIMES)[number];
export const isTime = (split: Split): split is Split & { by: Time } => (TIMES as readonly string[]).includes(split.by);

/** No more members of a window than this are set beside those of another. */
const PAIRED_MAX = 400;

/**
 * Members of a split of time over a window, each with its like over another: the first with the first, and so on.
 * @returns by the member of the other window; null where the two do not have as many, so that none is the like of another
 */
export function pairedTimes(cal: Calendar, by: Time, window: Window, other: Window): Map<string, string> | null {
  const [mine, others] = [timesOf(cal, by, window), timesOf(cal, by, other)];
  if (mine === null || others === null || mine.length !== others.length) return null;
  return new Map(others.map((key, i) => [key, mine[i] as string]));
}

/** All members of a split of time over a window, in order; null for too many of them. */
function timesOf(cal: Calendar, by: Time, window: Window): string[] | null {
  const [from, to] =
    window.by === 'date' ? [window.from, window.to] : [cal.period(window.from).from, cal.period(window.to).to];
  if (by === 'period') {
    const [first, last] =
      window.by === 'period' ? [window.from, window.to] : [cal.periodAt(from).ordinal, cal.periodAt(to).ordinal];
    const years = Array.from(
      { length: Math.floor(last / 100) - Math.floor(first / 100) + 1 },
      (_, i) => 2000 + Math.floor(first / 100) + i,
    );
    if (years.length > PAIRED_MAX) return null;
    return years.flatMap((year) =>
      cal.periodsOf(year).flatMap((p) => (p.ordinal >= first && p.ordinal <= last ? [String(p.ordinal)] : [])),
    );
  }
  if (by === 'month') {
    const month = (date: string): number => Number(date.slice(0, 4)) * 12 + Number(date.slice(5, 7)) - 1;
    const count = month(to) - month(from) + 1;
    const text = (n: number): string => `${Math.floor(n / 12)}-${String((n % 12) + 1).padStart(2, '0')}`;
    return count > PAIRED_MAX ? null : Array.from({ length: count }, (_, i) => text(month(from) + i));
  }
  const step = by === 'week' ? 7 : 1;
  const start = by === 'week' ? mondayOf(weekOf(from)) : from;
  const count = Math.floor(daysBetween(start, to) / step) + 1;
  if (count > PAIRED_MAX) return null;
  return Array.from({ length: count }, (_, i) => addDays(start, i * step)).map((day) =>
    by === 'week' ? weekOf(day) : day,
  );
}
