import { type Calendar, neighbour, type Ordinal, ordinal, periodText, yearOf } from './calendar';
import { addDays, type DateText, firstOfMonth } from './dates';
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
  /** It would go on to today, and ends with the last period that has lines. */
  endsAtLines?: true;
}

/** Where a window that runs up to today ends: with the last period that has lines, unless it is to go on. */
function endOf(cal: Calendar, today: DateText, { last }: Extent, goesOn: boolean): { to: Ordinal; endsAtLines?: true } {
  const now = cal.periodAt(today).ordinal;
  return goesOn || last === 0 || !(last < now) ? { to: now } : { to: last, endsAtLines: true };
}

/**
 * Named windows against a calendar, today, and what is loaded (method.md §2). Whole periods always.
 * @param goesOn windows up to today have its period in them, lines or not
 */
export const NAMED_WINDOWS: Record<string, (cal: Calendar, today: DateText, extent: Extent, goesOn?: boolean) => Span> =
  {
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
    'previous-month': (cal, today) => {
      const month = firstOfMonth(Number(today.slice(0, 4)), Number(today.slice(5, 7)));
      const before = addDays(month, -1);
      return { from: cal.periodAt(`${before.slice(0, 7)}-01`).ordinal, to: cal.periodAt(before).ordinal };
    },
    'year-to-date': (cal, today, extent, goesOn = false) => {
      const end = endOf(cal, today, extent, goesOn);
      return { from: firstOf(cal, yearOf(end.to)), ...end };
    },
    'last-year': (cal, today) => wholeYear(cal, cal.periodAt(today).year - 1),
    'last-year-end': (cal, today, { first }) => ({
      from: first,
      to: wholeYear(cal, cal.periodAt(today).year - 1).to,
      fromFirst: true,
    }),
    'trailing-12': (cal, today, extent, goesOn = false) => {
      const end = endOf(cal, today, extent, goesOn);
      let from = end.to;
      for (let i = 0; i < 11; i++) from = neighbour(cal, from, -1) ?? from;
      return { from, ...end };
    },
    everything: (_cal, _today, { first, last }) => ({ from: first, to: last, fromFirst: true }),
  };

const wholeYear = (cal: Calendar, year: number): Span => {
  const periods = cal.periodsOf(year);
  return { from: firstOf(cal, year), to: periods[periods.length - 1]?.ordinal ?? ordinal(year, 12) };
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
