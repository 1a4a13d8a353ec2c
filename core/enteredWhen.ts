import { type DateText, weekdayOf } from './dates';

/**
 * On which day of the week, and in which hour, an entry was entered, as the ledger writes it: nobody says in which zone.
 * Days are numbered as ISO 8601 numbers them, Monday 1 to Sunday 7.
 */

export const WEEKDAYS = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'] as const;
export type Weekday = (typeof WEEKDAYS)[number];
const NAMES: Record<Weekday, string> = {
  ...{ mon: 'Monday', tue: 'Tuesday', wed: 'Wednesday', thu: 'Thursday', fri: 'Friday' },
  ...{ sat: 'Saturday', sun: 'Sunday' },
};
/** @param sunday0 0 Sunday to 6 Saturday */
const codeOf = (sunday0: number): Weekday => WEEKDAYS[(sunday0 + 6) % 7] as Weekday;
export const weekdayCodeOf = (day: DateText): Weekday => codeOf(weekdayOf(day));
export const weekdayName = (weekday: Weekday): string => NAMES[weekday];

/** `sat`, `sat.14`, `.14`, or `sat.--`: a day of the week, an hour of it, an hour of any day, or no hour told. */
export const ENTERED_WHEN = /^(?:(mon|tue|wed|thu|fri|sat|sun)(?:\.([01]\d|2[0-3]|--))?|\.([01]\d|2[0-3]|--))$/;

/** What is asked for; null: any. */
export interface EnteredWhen {
  weekday: Weekday | null;
  hour: number | 'untold' | null;
}

/** @throws RangeError where it is not written so */
export function readEnteredWhen(text: string): EnteredWhen {
  const found = ENTERED_WHEN.exec(text);
  if (!found) throw new RangeError(`“${text}” is no time of a week`);
  const [, weekday, ofDay, ofAny] = found;
  const hour = ofDay ?? ofAny;
  return {
    weekday: (weekday as Weekday | undefined) ?? null,
    hour: hour === undefined ? null : hour === '--' ? 'untold' : Number(hour),
  };
}

/** When an entry was entered; null where its text does not begin with a date. A day that a month has not runs on into the next. */
export function enteredWhen(enteredAt: string | null): { weekday: Weekday; hour: number | 'untold' } | null {
  const day = enteredAt?.match(/^([1-9]\d{3})-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])/);
  if (!day) return null;
  const [, year, month, date] = day.map(Number) as [number, number, number, number];
  const hour = enteredAt?.slice(10).match(/^[T ]([01]\d|2[0-3]):/)?.[1];
  return {
    weekday: codeOf(new Date(Date.UTC(year, month - 1, date)).getUTCDay()),
    hour: hour === undefined ? 'untold' : Number(hour),
  };
}

/** Whether something was entered at a time that is asked for. */
export function enteredThen(enteredAt: string | null, wanted: readonly string[]): boolean {
  const when = enteredWhen(enteredAt);
  return (
    when !== null &&
    wanted.some((text) => {
      const { weekday, hour } = readEnteredWhen(text);
      return (weekday === null || weekday === when.weekday) && (hour === null || hour === when.hour);
    })
  );
}

/** In words: “on Saturdays between 14:00 and 15:00”. */
export function enteredWhenWords(text: string): string {
  const { weekday, hour } = readEnteredWhen(text);
  const at = (h: number): string => `${String(h).padStart(2, '0')}:00`;
  return [
    ...(weekday === null ? [] : [`on ${weekdayName(weekday)}s`]),
    ...(hour === null ? [] : hour === 'untold' ? ['with no hour told'] : [`between ${at(hour)} and ${at(hour + 1)}`]),
  ].join(' ');
}
