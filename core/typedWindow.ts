import { type Calendar, CalendarError, type Ordinal, parsePeriod, yearOf } from './calendar';
import { type DateText, firstOfMonth, isDate, lastOfMonth } from './dates';
import type { Window } from './figure';
import { MONTHS } from './sentence';

/** Windows as people type them, and which lines count; method.md §2 says what the named ones mean. */

export interface TypedWindow {
  window: Window;
  /** Where the periods are not all from one to another: those that count. */
  periods?: Ordinal[];
}

/** Quarters of a fiscal year of twelve periods. */
const QUARTER = 3;

/**
 * What words mean as a window: `2027.02`, `2027.02 to 2027.05`, `2027.02 and 2027.05`, `July`, `July 2026`, `July to
 * September 2026`, `Q2`, `Q2 2026`, `Q2 last year`, `fiscal 2027`, `this year`, `last year`, `3 Jul 2026`, `2026-07-03 to
 * 2026-07-10`. A month or a quarter without its year is the latest that has begun by the latest booked period.
 * @param latest the latest period with lines
 * @returns null where the words are no window of the calendar
 */
export function typedWindow(words: string, cal: Calendar, latest: Ordinal): TypedWindow | null {
  const text = words
    .trim()
    .toLowerCase()
    .replace(/\s+/g, ' ')
    .replace(/^(?:in|of|for|only|period|periods) /, '');
  try {
    const several = text.split(/ and |, ?/);
    if (several.length > 1) return periodsApart(several, cal);
    const [, first, last] = /^(.+?) ?(?: to | until |–|\.\.) ?(.+)$/.exec(text) ?? [];
    if (first === undefined || last === undefined) return one(text, cal, latest);
    // “July to September 2026”: the year that is said once is meant of both.
    const year = /^[a-z]+$/.test(first) ? (/(\d{4})$/.exec(last)?.[1] ?? '') : '';
    const [begin, end] = [one(`${first} ${year}`.trim(), cal, latest), one(last, cal, latest)];
    return begin && end ? through(begin.window, end.window) : null;
  } catch (error) {
    if (error instanceof CalendarError) return null;
    throw error;
  }
}

/** Which lines count, as it is typed; null where the words do not say so. */
export function typedStatus(words: string): 'posted' | 'unposted' | 'all' | null {
  const text = words
    .trim()
    .toLowerCase()
    .replace(/^only /, '');
  if (/^(?:posted and unposted|unposted too|with unposted)(?: lines)?$/.test(text)) return 'all';
  if (/^(?:unposted|not posted|not yet posted)(?: lines)?$/.test(text)) return 'unposted';
  return /^posted(?: lines)?$/.test(text) ? 'posted' : null;
}

function one(text: string, cal: Calendar, latest: Ordinal): TypedWindow | null {
  const period = parsePeriod(text);
  if (period !== null) return spanOf(cal.period(period).ordinal, cal.period(period).ordinal);
  const year = yearOf(latest);
  if (/^this (?:fiscal )?year$/.test(text)) return wholeYear(cal, year);
  if (/^(?:last|previous) (?:fiscal )?year$/.test(text)) return wholeYear(cal, year - 1);
  const [, fiscal] = /^(?:fiscal(?: year)?|fy|year) ?(\d{4})$/.exec(text) ?? [];
  if (fiscal) return wholeYear(cal, Number(fiscal));
  const [, quarter, of = ''] = /^q([1-4])(?: (.+))?$/.exec(text) ?? [];
  if (quarter) return quarterOf(Number(quarter), of, cal, latest);
  return monthOf(text, cal, latest) ?? dayOf(text);
}

const spanOf = (from: Ordinal, to: Ordinal): TypedWindow => ({ window: { by: 'period', from, to } });
const daysOf = (from: DateText, to: DateText): TypedWindow => ({ window: { by: 'date', from, to } });

function wholeYear(cal: Calendar, year: number): TypedWindow | null {
  const periods = cal.periodsOf(year);
  const [first, last] = [periods[0], periods[periods.length - 1]];
  return first && last ? spanOf(first.ordinal, last.ordinal) : null;
}

function quarterOf(quarter: number, of: string, cal: Calendar, latest: Ordinal): TypedWindow | null {
  const year = yearOf(latest);
  const at = (wanted: number): TypedWindow | null => {
    const periods = cal.periodsOf(wanted).filter((p) => !p.adjustment);
    const [first, last] = [periods[(quarter - 1) * QUARTER], periods[quarter * QUARTER - 1]];
    return periods.length === 4 * QUARTER && first && last ? spanOf(first.ordinal, last.ordinal) : null;
  };
  if (/^(?:last|previous) year$/.test(of)) return at(year - 1);
  if (/^(?:this year)$/.test(of)) return at(year);
  if (/^\d{4}$/.test(of)) return at(Number(of));
  if (of !== '') return null;
  const here = at(year);
  return here && (here.window.from as Ordinal) > latest ? at(year - 1) : here;
}

/** A calendar month: the period that it is, or its days where periods are something else. */
function monthOf(text: string, cal: Calendar, latest: Ordinal): TypedWindow | null {
  const [, word = '', said] = /^([a-z]{3,9})\.?(?: (\d{4}|last year|this year))?$/.exec(text) ?? [];
  const month = monthNamed(word);
  if (month < 0) return null;
  const end = cal.period(latest).to;
  const endYear = Number(end.slice(0, 4));
  const newest = firstOfMonth(endYear, month + 1) <= end ? endYear : endYear - 1;
  const year = /^\d{4}$/.test(said ?? '') ? Number(said) : said === 'last year' ? newest - 1 : newest;
  const [from, to] = [firstOfMonth(year, month + 1), lastOfMonth(year, month + 1)];
  const period = cal.periodAt(from);
  return period.from === from && period.to === to ? spanOf(period.ordinal, period.ordinal) : daysOf(from, to);
}

/** Which month a word names, whole or by its first letters, counted from 0; -1 for none. */
const monthNamed = (word: string): number =>
  MONTHS.map((m) => m.toLowerCase()).findIndex(
    (m) => m === word || m.slice(0, 3) === word || (word === 'sept' && m === 'september'),
  );

function dayOf(text: string): TypedWindow | null {
  if (isDate(text)) return daysOf(text, text);
  const [, day = '', word = '', year = ''] = /^(\d{1,2})\.? ([a-z]{3,9})\.? (\d{4})$/.exec(text) ?? [];
  const month = monthNamed(word);
  const date = `${year}-${String(month + 1).padStart(2, '0')}-${day.padStart(2, '0')}`;
  return month >= 0 && isDate(date) ? daysOf(date, date) : null;
}

function periodsApart(words: string[], cal: Calendar): TypedWindow | null {
  const periods = words.map((word) => parsePeriod(word.trim()));
  if (!periods.every((p) => p !== null)) return null;
  const sorted = [...new Set(periods.map((p) => cal.period(p).ordinal))].sort((a, b) => a - b);
  return { ...spanOf(sorted[0] as Ordinal, sorted[sorted.length - 1] as Ordinal), periods: sorted };
}

function through(first: Window, last: Window): TypedWindow | null {
  if (first.by === 'period' && last.by === 'period') return first.from <= last.to ? spanOf(first.from, last.to) : null;
  if (first.by === 'date' && last.by === 'date') return first.from <= last.to ? daysOf(first.from, last.to) : null;
  return null;
}
