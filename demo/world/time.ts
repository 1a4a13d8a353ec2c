import { addDays, firstOfMonth, lastOfMonth } from '@/core/dates';

/** The demo world begins on the first day of fiscal year 2024/25 and ends with September 2026. */
export const FIRST_DAY = '2024-04-01';
export const LAST_DAY = '2026-09-30';

export interface Month {
  year: number;
  month: number;
  first: string;
  last: string;
}

export function* months(): Generator<Month> {
  for (let i = 0; i < 30; i++) {
    const month = ((3 + i) % 12) + 1;
    const year = 2024 + Math.floor((3 + i) / 12);
    yield { year, month, first: firstOfMonth(year, month), last: lastOfMonth(year, month) };
  }
}

export function* daysOf({ first, last }: Month): Generator<string> {
  for (let day = first; day <= last; day = addDays(day, 1)) yield day;
}

/** Ferries are full in summer. */
export const SEASON = [0.45, 0.48, 0.6, 0.85, 1.05, 1.3, 1.65, 1.7, 1.2, 0.9, 0.55, 0.6];
/** A storm week in which hardly anything sailed to Skarvoy (story 13). */
export const STORM = { from: '2026-02-09', to: '2026-02-15', route: 'R5' };
/** Maren was in dry dock (stories 1 and 4). */
export const DRY_DOCK = { from: '2026-05-04', to: '2026-07-19' };
