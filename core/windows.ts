import { type Calendar, neighbour, type Ordinal, ordinal, periodText, yearOf } from './calendar';
import { addDays, type DateText } from './dates';
import type { Window } from './figure';

/** First and last period with posted lines. */
export interface Extent {
  first: Ordinal;
  last: Ordinal;
}

export interface Span {
  from: Ordinal;
  to: Ordinal;
  fromFirst?: boolean;
}

/** Named windows against a calendar, today, and what is loaded (method.md §2). Whole periods always. */
export const NAMED_WINDOWS: Record<string, (cal: Calendar, today: DateText, extent: Extent) => Span> = {
  'latest-period': (_cal, _today, { last }) => ({ from: last, to: last }),
  'current-period': (cal, today) => {
    const now = cal.periodAt(today).ordinal;
    return { from: now, to: now };
  },
  'last-period': (cal, today) => {
    const now = cal.periodAt(today).ordinal;
    const before = neighbour(cal, now, -1) ?? now;
    return { from: before, to: before };
  },
  'year-to-date': (cal, today) => {
    const now = cal.periodAt(today).ordinal;
    return { from: firstOf(cal, yearOf(now)), to: now };
  },
  'last-year': (cal, today) => {
    const year = cal.periodAt(today).year - 1;
    const periods = cal.periodsOf(year);
    return { from: firstOf(cal, year), to: periods[periods.length - 1]?.ordinal ?? ordinal(year, 12) };
  },
  'trailing-12': (cal, today) => {
    const to = cal.periodAt(today).ordinal;
    let from = to;
    for (let i = 0; i < 11; i++) from = neighbour(cal, from, -1) ?? from;
    return { from, to };
  },
  everything: (_cal, _today, { first, last }) => ({ from: first, to: last, fromFirst: true }),
};

/** From the start of a period's fiscal year to that period. */
export const yearToDate = (cal: Calendar, to: Ordinal): Span => ({ from: firstOf(cal, yearOf(to)), to });

const firstOf = (cal: Calendar, year: number): Ordinal => cal.periodsOf(year)[0]?.ordinal ?? ordinal(year, 1);

/** The last period, or day, before a window as it is written in a scope; null where there is none. */
export function endBefore(cal: Calendar, window: Window): string | null {
  if (window.by === 'date') return addDays(window.from, -1);
  const year = yearOf(window.from);
  const earlier = [...cal.periodsOf(year - 1), ...cal.periodsOf(year)].filter((p) => p.ordinal < window.from);
  const last = earlier[earlier.length - 1];
  return last ? periodText(last.ordinal) : null;
}
