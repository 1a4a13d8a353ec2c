import { addDays, type DateText, daysBetween, firstOfMonth, lastOfMonth, weekdayOf } from './dates';

/**
 * A period of a fiscal calendar as one sortable integer: (fiscal year − 2000) × 100 + number, so that
 * 2713 is the adjustment period 13 of the fiscal year that ends in 2027 (api.md writes it 2027.13).
 */
export type Ordinal = number;

export type CalendarSpec =
  | { kind: 'monthly'; start: string; adjustmentPeriods: number }
  | {
      kind: 'weeks';
      pattern: '4-4-5' | '4-5-4' | '5-4-4';
      yearEnds: { weekday: number; month: number; rule: 'last' | 'nearest' };
      adjustmentPeriods: number;
    }
  | { kind: 'custom'; periods: CustomPeriod[] };

export interface CustomPeriod {
  year: number;
  number: number;
  from: DateText;
  to: DateText;
  adjustment?: boolean;
}

export interface Period {
  ordinal: Ordinal;
  year: number;
  number: number;
  from: DateText;
  to: DateText;
  adjustment: boolean;
}

/** Raised when a date or a period is outside the calendar. */
export class CalendarError extends Error {
  constructor(message: string) {
    super(message);
    this.name = 'CalendarError';
  }
}

export const ordinal = (year: number, number: number): Ordinal => (year - 2000) * 100 + number;
export const yearOf = (period: Ordinal): number => Math.floor(period / 100) + 2000;
export const numberOf = (period: Ordinal): number => period - (yearOf(period) - 2000) * 100;

/** 2713 → "2027.13" */
export const periodText = (period: Ordinal): string => `${yearOf(period)}.${String(numberOf(period)).padStart(2, '0')}`;

/** "2027.13" → 2713, or null if it is not written so. */
export function parsePeriod(value: string): Ordinal | null {
  const match = /^((?:19|20|21)\d\d)\.(\d\d)$/.exec(value);
  return match ? ordinal(Number(match[1]), Number(match[2])) : null;
}

/** A fiscal calendar: which period a date is in, and what a period's dates are (method.md §2). */
export interface Calendar {
  spec: CalendarSpec;
  /** The normal (not adjustment) period that holds the date. @throws CalendarError outside a custom list */
  periodAt(date: DateText): Period;
  /** @throws CalendarError if the calendar has no such period */
  period(of: Ordinal): Period;
  /** All periods of a fiscal year in order, the adjustment periods last. Empty if the year is unknown. */
  periodsOf(year: number): Period[];
}

export function calendar(spec: CalendarSpec): Calendar {
  const years = new Map<number, Period[]>();
  const build = builders(spec);
  const periodsOf = (year: number): Period[] => {
    let periods = years.get(year);
    if (!periods) {
      periods = build(year);
      years.set(year, periods);
    }
    return periods;
  };
  return {
    spec,
    periodsOf,
    period(of) {
      const found = periodsOf(yearOf(of)).find((p) => p.ordinal === of);
      if (!found) throw new CalendarError(`the calendar has no period ${periodText(of)}`);
      return found;
    },
    periodAt(date) {
      const near = Number(date.slice(0, 4));
      for (const year of [near, near + 1, near - 1, near + 2]) {
        const found = periodsOf(year).find((p) => !p.adjustment && p.from <= date && date <= p.to);
        if (found) return found;
      }
      throw new CalendarError(`${date} lies outside the fiscal calendar`);
    },
  };
}

/** First and last day of a fiscal year. */
export function yearSpan(cal: Calendar, year: number): { from: DateText; to: DateText } {
  const normal = cal.periodsOf(year).filter((p) => !p.adjustment);
  const first = normal[0];
  const last = normal[normal.length - 1];
  if (!first || !last) throw new CalendarError(`the calendar has no fiscal year ${year}`);
  return { from: first.from, to: last.to };
}

/** The period before or after, over year ends, adjustment periods left out. Null past a custom list's end. */
export function neighbour(cal: Calendar, of: Ordinal, step: 1 | -1): Ordinal | null {
  const here = cal.period(of);
  try {
    return step === -1 ? cal.periodAt(addDays(here.from, -1)).ordinal : cal.periodAt(addDays(here.to, 1)).ordinal;
  } catch (error) {
    if (error instanceof CalendarError) return null;
    throw error;
  }
}

/**
 * By date a line in an adjustment period belongs to its fiscal year's last day, whatever date it bears
 * (method.md §2); every other line belongs to its posting date.
 */
export function dayOf(cal: Calendar, postingDate: DateText, period: Ordinal): DateText {
  return cal.period(period).adjustment ? yearSpan(cal, yearOf(period)).to : postingDate;
}

function builders(spec: CalendarSpec): (year: number) => Period[] {
  switch (spec.kind) {
    case 'monthly':
      return (year) => monthlyYear(year, Number(spec.start), spec.adjustmentPeriods);
    case 'weeks':
      return (year) => weeksYear(year, spec);
    case 'custom':
      return (year) =>
        spec.periods
          .filter((p) => p.year === year)
          .map((p) => ({ ...p, adjustment: p.adjustment ?? false, ordinal: ordinal(p.year, p.number) }))
          .sort((a, b) => a.number - b.number);
  }
}

function monthlyYear(year: number, start: number, adjustments: number): Period[] {
  const firstYear = start === 1 ? year : year - 1;
  const normal = Array.from({ length: 12 }, (_, i) => ({
    ordinal: ordinal(year, i + 1),
    year,
    number: i + 1,
    from: firstOfMonth(firstYear, start + i),
    to: lastOfMonth(firstYear, start + i),
    adjustment: false,
  }));
  return withAdjustments(normal, adjustments);
}

/** 52 or 53 whole weeks that end on the chosen weekday; a 53rd week lengthens the last period (26 CFR 1.441-2). */
function weeksYear(year: number, spec: Extract<CalendarSpec, { kind: 'weeks' }>): Period[] {
  const from = addDays(weeksYearEnd(year - 1, spec.yearEnds), 1);
  const end = weeksYearEnd(year, spec.yearEnds);
  const quarter = spec.pattern.split('-').map(Number);
  const weeks = [...quarter, ...quarter, ...quarter, ...quarter];
  if (daysBetween(from, end) + 1 === 53 * 7) weeks[11] = (weeks[11] as number) + 1;
  let start = from;
  const normal = weeks.map((count, i) => {
    const period = {
      ordinal: ordinal(year, i + 1),
      year,
      number: i + 1,
      from: start,
      to: addDays(start, count * 7 - 1),
    };
    start = addDays(period.to, 1);
    return { ...period, adjustment: false };
  });
  return withAdjustments(normal, spec.adjustmentPeriods);
}

function weeksYearEnd(year: number, rule: { weekday: number; month: number; rule: 'last' | 'nearest' }): DateText {
  const monthEnd = lastOfMonth(year, rule.month);
  const last = addDays(monthEnd, -((weekdayOf(monthEnd) - rule.weekday + 7) % 7));
  return rule.rule === 'nearest' && daysBetween(last, monthEnd) > 3 ? addDays(last, 7) : last;
}

function withAdjustments(normal: Period[], count: number): Period[] {
  const first = normal[0] as Period;
  const last = normal[normal.length - 1] as Period;
  const extra = Array.from({ length: count }, (_, i) => {
    const number = last.number + 1 + i;
    return {
      ordinal: ordinal(first.year, number),
      year: first.year,
      number,
      from: last.to,
      to: last.to,
      adjustment: true,
    };
  });
  return [...normal, ...extra];
}

/** Why a calendar cannot be used, as sentences; empty if it can. */
export function calendarFaults(spec: CalendarSpec): string[] {
  if (spec.kind !== 'custom') return [];
  const faults: string[] = [];
  const normal = spec.periods.filter((p) => !p.adjustment).sort((a, b) => (a.from < b.from ? -1 : 1));
  const seen = new Set<Ordinal>();
  for (const p of spec.periods) {
    const key = ordinal(p.year, p.number);
    if (seen.has(key)) faults.push(`period ${periodText(key)} is listed twice`);
    seen.add(key);
    if (p.from > p.to) faults.push(`period ${periodText(key)} ends before it begins`);
  }
  for (const [i, p] of normal.entries()) {
    const next = normal[i + 1];
    if (!next) break;
    const mine = periodText(ordinal(p.year, p.number));
    if (next.from !== addDays(p.to, 1)) faults.push(`period ${mine} ends on ${p.to}, the next begins on ${next.from}`);
    if (ordinal(next.year, next.number) <= ordinal(p.year, p.number))
      faults.push(`the periods after ${mine} are not in order`);
  }
  if (normal.length === 0) faults.push('the calendar has no periods');
  return faults;
}
