import type { DateOrder } from '@/contracts/mapping';
import { isDate } from '@/core/dates';
import { SPACES } from '@/core/writtenAmounts';
import type { Recognised } from './recognised';

/**
 * How numbers and dates are written in a file. Everything that leaves this module is written our way: dates as
 * 2026-04-30, amounts as -1200.50. What cannot be read is given back as it was, so that the row's check names it.
 */
/** The decimal mark of a column of amounts. Asked if every value could be read both ways ("1.234"). */
export function recogniseDecimal(values: readonly string[]): Recognised<'.' | ','> {
  let point = 0;
  let comma = 0;
  let unsure = 0;
  for (const value of values) {
    const text = value.replace(SPACES, '').replace(/[^\d.,]/g, '');
    const marks = text.match(/[.,]/g) ?? [];
    if (marks.length === 0) continue;
    const last = marks[marks.length - 1] as string;
    const both = new Set(marks).size === 2;
    const after = text.length - text.lastIndexOf(last) - 1;
    if (both || (marks.length === 1 && after !== 3)) last === '.' ? point++ : comma++;
    else if (marks.length > 1) last === '.' ? comma++ : point++;
    else unsure++;
  }
  if (point === 0 && comma === 0) {
    const example = values.find((v) => /[.,]\d{3}\D*$/.test(v));
    return unsure === 0
      ? { value: '.', doubt: 'none', why: 'no amount has decimals' }
      : { value: '.', doubt: 'ask', why: `“${example}” could be thousands or three decimals` };
  }
  const value = point >= comma ? '.' : ',';
  const why = `${Math.max(point, comma)} amounts are written so`;
  return {
    value,
    doubt: Math.min(point, comma) === 0 ? 'none' : 'likely',
    why: point > 0 && comma > 0 ? `${why}, ${Math.min(point, comma)} the other way` : why,
  };
}

/** Order of day, month and year. Asked if no day beyond the twelfth occurs. */
export function recogniseDates(values: readonly string[]): Recognised<DateOrder> {
  const votes = { ymd: 0, dmy: 0, mdy: 0 };
  let unsure: string | null = null;
  for (const value of values) {
    const text = value.trim();
    if (/^\d{4}[-/.]?\d{2}[-/.]?\d{2}/.test(text)) votes.ymd += 1;
    else if (/^\d{1,2}[- ]?[A-Za-z]{3}/.test(text)) votes.dmy += 1;
    else {
      const parts = /^(\d{1,2})[-/. ](\d{1,2})[-/. ](\d{2}|\d{4})\b/.exec(text);
      if (!parts) continue;
      if (Number(parts[1]) > 12) votes.dmy += 1;
      else if (Number(parts[2]) > 12) votes.mdy += 1;
      else unsure ??= text;
    }
  }
  const [best, next] = (Object.entries(votes) as [DateOrder, number][]).sort((a, b) => b[1] - a[1]) as [
    [DateOrder, number],
    [DateOrder, number],
  ];
  if (best[1] === 0) {
    if (unsure === null) return { value: 'ymd', doubt: 'none', why: 'no date is written otherwise' };
    return { value: 'dmy', doubt: 'ask', why: `“${unsure}” could be day first or month first` };
  }
  const why = `${best[1]} dates can be read only so`;
  return {
    value: best[0],
    doubt: next[1] === 0 ? 'none' : 'likely',
    why: next[1] > 0 ? `${why}, ${next[1]} only otherwise` : why,
  };
}

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
/** Years written with two digits up to this one are of this century. */
const CENTURY_FROM = 70;

/** "30.4.2026", "04/30/26", "20260430", "30-Apr-2026 00:00" → "2026-04-30". */
export function plainDate(value: string, order: DateOrder): string {
  if (value.length === 10 && isDate(value)) return value;
  const text = value.trim().replace(/[T ]\d{1,2}:\d{2}(:\d{2}(\.\d+)?)?(Z|[+-]\d{2}:?\d{2})?$/, '');
  const readings =
    order === 'ymd' ? [yearFirst(text), named(text)] : [yearLast(text, order), yearFirst(text), named(text)];
  for (const reading of readings) {
    if (!reading) continue;
    const [year, month, day] = reading;
    const written = `${year}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`;
    // Eight digits may be a year first or last; a year before ledgers were kept is none.
    if (year >= YEARS_FROM && isDate(written)) return written;
  }
  return value.trim();
}

const YEARS_FROM = 1_800;
type Parts = [year: number, month: number, day: number] | null;

function yearFirst(text: string): Parts {
  const match = /^(\d{4})[-/. ]?(\d{1,2})[-/. ]?(\d{1,2})$/.exec(text);
  return match && [Number(match[1]), Number(match[2]), Number(match[3])];
}

function yearLast(text: string, order: 'dmy' | 'mdy'): Parts {
  const match = /^(\d{1,2})[-/. ](\d{1,2})[-/. ](\d{2}|\d{4})$/.exec(text) ?? /^(\d{2})(\d{2})(\d{4})$/.exec(text);
  if (!match) return null;
  const [, a, b, year = ''] = match;
  return order === 'dmy' ? [fullYear(year), Number(b), Number(a)] : [fullYear(year), Number(a), Number(b)];
}

function named(text: string): Parts {
  const match = /^(\d{1,2})[-/. ]?([A-Za-z]{3})[a-z]*\.?[-/. ]?(\d{2}|\d{4})$/.exec(text);
  const month = match ? MONTHS.indexOf((match[2] as string).toLowerCase()) + 1 : 0;
  return match && month > 0 ? [fullYear(match[3] as string), month, Number(match[1])] : null;
}

const fullYear = (text: string): number =>
  text.length === 4 ? Number(text) : Number(text) + (Number(text) < CENTURY_FROM ? 2000 : 1900);
