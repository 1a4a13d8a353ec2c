import { Cron } from 'croner';
import type { Every } from '@/contracts/schedules';

/** When something is made by itself: the parts of a schedule that tell. */
export interface When {
  every: Every;
  /** The day of what is made once (ISO 8601). */
  day: string | null;
  /** Of a week 1 (Monday) to 7 (ISO 8601); of a month 1 to 31, 0 for its last. */
  days: readonly number[];
  /** Hours and minutes by the clocks of the zone. */
  time: string;
  /** A time zone by its name (IANA). */
  zone: string;
}

/**
 * The first moment after another at which a schedule falls due, by the clocks of its zone; null where none will come. A
 * time that a clock leaves out when it is put forward is met as soon as it was; one that comes twice is met the first time.
 */
export function nextOf({ every, day, days, time, zone }: When, after: Date): Date | null {
  const [hour, minute] = time.split(':').map(Number) as [number, number];
  const next = (pattern: string): Date | null => new Cron(pattern, { timezone: zone, paused: true }).nextRun(after);
  switch (every) {
    case 'once':
      return day === null ? null : next(`${day}T${time}:00`);
    case 'daily':
      return next(`0 ${minute} ${hour} * * *`);
    case 'weekly':
      return next(`0 ${minute} ${hour} * * ${(days.length > 0 ? days : [1]).map((d) => d % 7).join(',')}`);
    case 'monthly': {
      // Day 31 of a shorter month is its last, so that no month is left out.
      const moments = (days.length > 0 ? days : [1]).flatMap((d) => ofMonth(d, hour, minute, zone, after) ?? []);
      return moments.sort((a, b) => a.getTime() - b.getTime())[0] ?? null;
    }
    default:
      return null;
  }
}

const LONGEST = 31;

function ofMonth(day: number, hour: number, minute: number, zone: string, after: Date): Date | null {
  const next = (pattern: string, from: Date): Date | null =>
    new Cron(pattern, { timezone: zone, paused: true }).nextRun(from);
  const lastOf = (from: Date): Date | null => next(`0 ${minute} ${hour} L * *`, from);
  if (day === 0 || day === LONGEST) return lastOf(after);
  const own = next(`0 ${minute} ${hour} ${day} * *`, after);
  // In a month that has no such day its last one stands for it.
  for (let last = lastOf(after); last && own && last < own; last = lastOf(last)) {
    const lastDay = Number(new Intl.DateTimeFormat('en', { day: 'numeric', timeZone: zone }).format(last));
    if (lastDay < day) return last;
  }
  return own;
}
