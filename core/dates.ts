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

/** The ISO 8601 week that a date is in: "2026-W31". The first week of a year is the one that holds 4 January. */
export function weekOf(date: DateText): string {
  const thursday = addDays(date, 3 - ((weekdayOf(date) + 6) % 7));
  const year = Number(thursday.slice(0, 4));
  const week = Math.floor(daysBetween(firstOfMonth(year, 1), thursday) / 7) + 1;
  return `${year}-W${String(week).padStart(2, '0')}`;
}

/** "2026-W31" → the Monday on which it begins. */
export function mondayOf(week: string): DateText {
  const fourth = `${week.slice(0, 4)}-01-04`;
  return addDays(fourth, (Number(week.slice(6)) - 1) * 7 - ((weekdayOf(fourth) + 6) % 7));
}
