import { type Calendar, CalendarError, neighbour, type Ordinal, ordinal, yearOf, yearSpan } from './calendar';
import { addDays, daysBetween } from './dates';
import type { Window } from './figure';
import { yearToDate } from './windows';

/** Windows that a window is held against (method.md §2). */
export const COMPARISONS = ['ytd', 'year-before', 'ytd-before', 'window-before', 'last-year', 'trailing-12'] as const;
export type Comparison = (typeof COMPARISONS)[number];

export const COMPARISON_LABEL: Record<Comparison, string> = {
  ytd: 'Year to date',
  'year-before': 'Year before',
  'ytd-before': 'Year to date, year before',
  'window-before': 'Window before',
  'last-year': 'Last fiscal year',
  'trailing-12': 'Trailing twelve periods',
};

/** The window that a comparison means, or null where the calendar has none. */
export function comparedWindow(cal: Calendar, window: Window, which: Comparison): Window | null {
  try {
    switch (which) {
      case 'ytd':
        return window.by === 'period'
          ? { by: 'period', ...yearToDate(cal, window.to) }
          : { by: 'date', from: yearSpan(cal, cal.periodAt(window.to).year).from, to: window.to };
      case 'year-before':
        return yearBefore(cal, window);
      case 'ytd-before': {
        const ytd = comparedWindow(cal, window, 'ytd');
        return ytd && yearBefore(cal, ytd);
      }
      case 'window-before':
        return windowBefore(cal, window);
      case 'last-year': {
        const year = (window.by === 'period' ? yearOf(window.to) : cal.periodAt(window.to).year) - 1;
        const periods = cal.periodsOf(year);
        const last = periods[periods.length - 1];
        if (!last) return null;
        return window.by === 'period'
          ? { by: 'period', from: ordinal(year, 1), to: last.ordinal }
          : { by: 'date', ...yearSpan(cal, year) };
      }
      case 'trailing-12': {
        let from = window.by === 'period' ? normalPeriod(cal, window.to) : cal.periodAt(window.to).ordinal;
        for (let i = 0; i < 11; i++) from = neighbour(cal, from, -1) ?? from;
        return window.by === 'period'
          ? { by: 'period', from, to: window.to }
          : { by: 'date', from: cal.period(from).from, to: window.to };
      }
    }
  } catch (error) {
    if (error instanceof CalendarError) return null;
    throw error;
  }
}

const YEAR = 100;

function yearBefore(cal: Calendar, window: Window): Window | null {
  if (window.by === 'period') {
    const [from, to] = [clamped(cal, window.from - YEAR), clamped(cal, window.to - YEAR)];
    return from === null || to === null ? null : { by: 'period', from, to };
  }
  const before = (date: string): string => {
    const moved = `${Number(date.slice(0, 4)) - 1}${date.slice(4)}`;
    return date.endsWith('-02-29') ? `${moved.slice(0, 4)}-02-28` : moved;
  };
  return { by: 'date', from: before(window.from), to: before(window.to) };
}

/** The period itself, or the last one of its year where that year is shorter (a 53rd week, an adjustment period). */
function clamped(cal: Calendar, of: Ordinal): Ordinal | null {
  const periods = cal.periodsOf(yearOf(of));
  if (periods.length === 0) return null;
  return periods.some((p) => p.ordinal === of) ? of : (periods[periods.length - 1]?.ordinal ?? null);
}

function windowBefore(cal: Calendar, window: Window): Window | null {
  if (window.by === 'date') {
    const days = daysBetween(window.from, window.to) + 1;
    return { by: 'date', from: addDays(window.from, -days), to: addDays(window.from, -1) };
  }
  let length = 1;
  for (let at = normalPeriod(cal, window.from); at < normalPeriod(cal, window.to); length++) {
    const next = neighbour(cal, at, 1);
    if (next === null) return null;
    at = next;
  }
  const to = neighbour(cal, normalPeriod(cal, window.from), -1);
  if (to === null) return null;
  let from = to;
  for (let i = 1; i < length; i++) {
    const before = neighbour(cal, from, -1);
    if (before === null) return null;
    from = before;
  }
  return { by: 'period', from, to };
}

/** An adjustment period is at its year's last normal one. */
export const normalPeriod = (cal: Calendar, of: Ordinal): Ordinal => {
  const period = cal.period(of);
  return period.adjustment ? cal.periodAt(period.to).ordinal : of;
};
