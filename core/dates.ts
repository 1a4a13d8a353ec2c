/** A calendar date as YYYY-MM-DD. It has no time and no zone, and is compared as text. */
export type DateText = string;

const DAY_MS = 86_400_000;
const utc = (date: DateText): number => Date.parse(`${date}T00:00:00Z`);
const text = (ms: number): DateText => new Date(ms).toISOString().slice(0, 10);

/** True for a date that exists (2025-02-29 does not), between the years 1900 and 2199. */
export function isDate(value: string): boolean {
  if (!/^(19|20|21)\d\d-\d\d-\d\d$/.test(value)) return false;
  const ms = utc(value);
  return !Number.isNaN(ms) && text(ms) === value;
}

export const addDays = (date: DateText, days: number): DateText => text(utc(date) + days * DAY_MS);
export const daysBetween = (from: DateText, to: DateText): number => (utc(to) - utc(from)) / DAY_MS;
/** 0 Sunday … 6 Saturday. */
export const weekdayOf = (date: DateText): number => new Date(utc(date)).getUTCDay();
/** month 1 … 12, and beyond it in either direction. */
export const firstOfMonth = (year: number, month: number): DateText => text(Date.UTC(year, month - 1, 1));
export const lastOfMonth = (year: number, month: number): DateText => text(Date.UTC(year, month, 0));
