import { addDays, type DateText, firstOfMonth, isDate, lastOfMonth } from './dates';
import { folded, foldedPlaces } from './folded';
import { AmountFormatError, AmountRangeError, type Minor, parseAmount } from './money';
import { MONTHS } from './sentence';
import { plainAmount } from './writtenAmounts';

/**
 * What somebody types to find something, understood. Every word must be found: as part of any word of a text, or as an
 * amount, or as a day, whichever it can be read as. Words in quotes are looked for as they stand, whole.
 */
export interface Sought {
  /** Folded; null where it is an amount alone, such as “>5000”. */
  text: string | null;
  /** Whole words, one after the other, as they stood in quotes. */
  exact: boolean;
  /** Amounts that it may mean, without a sign, in units of a currency; either end may be open. */
  amounts: AmountsSought[];
  /** Days that it may mean, from and to. */
  days: { from: DateText; to: DateText } | null;
}

export interface AmountsSought {
  from: string | null;
  to: string | null;
  /** Whether the ends themselves are meant too. */
  open?: true;
}

type Words = Pick<Sought, 'text' | 'exact'>;

/** The same where amounts are in the smallest units of the books. */
export interface SoughtInBooks extends Pick<Sought, 'text' | 'exact' | 'days'> {
  amounts: { from: Minor | null; to: Minor | null }[];
}

/** What is sought in books of a currency; an amount that it cannot have is none. @param digits decimals of the currency */
export const soughtIn = (sought: readonly Sought[], digits: number): SoughtInBooks[] =>
  sought.map(({ amounts, ...one }) => ({
    ...one,
    amounts: amounts.flatMap(({ from, to, open }) => {
      const [least, most] = [from, to].map((end) => (end === null ? null : unitsOf(end, digits)));
      if (least === undefined || most === undefined) return [];
      return [
        {
          from: least === null || !open ? least : least + 1,
          to: most === null || !open ? most : most - 1,
        },
      ];
    }),
  }));

function unitsOf(amount: string, digits: number): Minor | undefined {
  try {
    return parseAmount(amount, digits);
  } catch (error) {
    if (error instanceof AmountFormatError || error instanceof AmountRangeError) return undefined;
    throw error;
  }
}

/** More words than these are not looked for one by one. */
export const WORDS_MAX = 8;

const PART = /"([^"]*)"?|(\S+)/g;
const NUMBER = String.raw`\d[\d.,'’]*`;
const COMPARED = new RegExp(`^(>=|<=|>|<|=)(${NUMBER})$`);
const BETWEEN = new RegExp(`^(${NUMBER})\\.\\.(${NUMBER})$`);

/** @param today the day by which a day without its year is the latest one */
export function readSearch(typed: string, today: DateText): Sought[] {
  const found: Sought[] = [];
  const words: string[] = [];
  for (const [whole, quoted, word] of typed.normalize('NFC').matchAll(PART)) {
    if (word === undefined || whole.startsWith('"')) {
      const text = folded((quoted ?? '').trim().replace(/\s+/g, ' '));
      if (text !== '') found.push({ text, exact: true, amounts: [], days: null });
    } else words.push(word);
  }
  for (let at = 0; at < words.length; ) {
    const said = dayIn(words, at, today);
    const many = said?.words ?? 1;
    const text = words.slice(at, at + many).join(' ');
    const compared = comparedAmounts(text);
    found.push({
      text: compared ? null : folded(text),
      exact: false,
      amounts: compared ?? amountsOf(text),
      days: said ? { from: said.from, to: said.to } : null,
    });
    at += many;
  }
  return found.slice(0, WORDS_MAX);
}

/** “>5000”, “<=10.50”, “1000..2500”. */
function comparedAmounts(text: string): AmountsSought[] | null {
  const [, sign, number] = COMPARED.exec(text) ?? [];
  if (sign && number)
    return amountsOf(number).map(({ from: amount }) => {
      if (sign === '=') return { from: amount, to: amount };
      const open = sign.length === 1 ? { open: true as const } : {};
      return sign.startsWith('>') ? { from: amount, to: null, ...open } : { from: null, to: amount, ...open };
    });
  const [, from, to] = BETWEEN.exec(text) ?? [];
  if (!from || !to) return null;
  const [first] = amountsOf(from);
  const [last] = amountsOf(to);
  return first && last ? [{ from: first.from, to: last.from }] : null;
}

/** An amount however it is written: what is before its decimals may be a point or a comma, whoever wrote it. */
function amountsOf(text: string): AmountsSought[] {
  if (!new RegExp(`^${NUMBER}$`).test(text)) return [];
  const found = new Set<string>();
  for (const decimal of ['.', ','] as const) {
    const plain = plainAmount(text, decimal);
    if (/^\d{1,16}(?:\.\d{1,4})?$/.test(plain)) found.add(trimmed(plain));
  }
  return [...found].map((amount) => ({ from: amount, to: amount }));
}

const trimmed = (number: string): string =>
  number
    .replace(/^0+(?=\d)/, '')
    .replace(/(\.\d*?)0+$/, '$1')
    .replace(/\.$/, '');

const monthNamed = (word: string): number =>
  word.length < 3 ? -1 : MONTHS.findIndex((m) => m.toLowerCase().startsWith(word.toLowerCase().replace(/\.$/, '')));

const dateOf = (year: number, month: number, day: number): DateText | null => {
  const date = `${year}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`;
  return isDate(date) ? date : null;
};

/** A day or a month said by some of the words from one on: 2026-07-06, 06.07.2026, 6 jul, 6 July 2026, jul 2026. */
function dayIn(
  words: readonly string[],
  at: number,
  today: DateText,
): { from: DateText; to: DateText; words: number } | null {
  const [first = '', second = '', third = ''] = words.slice(at, at + 3);
  const one = (date: DateText | null, many: number) => (date === null ? null : { from: date, to: date, words: many });
  if (isDate(first)) return one(first, 1);
  const [, d, m, y] = /^(\d{1,2})\.(\d{1,2})\.(\d{4})$/.exec(first) ?? [];
  if (d && m && y) return one(dateOf(Number(y), Number(m), Number(d)), 1);
  const [, year, month] = /^(\d{4})-(\d{2})$/.exec(first) ?? [];
  if (year && month && Number(month) >= 1 && Number(month) <= 12) return monthSpan(Number(year), Number(month), 1);
  const [, day] = /^(\d{1,2})\.?$/.exec(first) ?? [];
  const named = monthNamed(second) + 1;
  if (day && named > 0) {
    if (/^\d{4}$/.test(third)) return one(dateOf(Number(third), named, Number(day)), 3);
    const thisYear = Number(today.slice(0, 4));
    const here = dateOf(thisYear, named, Number(day));
    return one(here !== null && here <= today ? here : dateOf(thisYear - 1, named, Number(day)), 2);
  }
  const own = monthNamed(first) + 1;
  return own > 0 && /^\d{4}$/.test(second) ? monthSpan(Number(second), own, 2) : null;
}

const monthSpan = (year: number, month: number, words: number) => {
  const from = firstOfMonth(year, month);
  return isDate(from) && isDate(addDays(from, 27)) ? { from, to: lastOfMonth(year, month), words } : null;
};

/** Whether what is sought must stand whole: a phrase in quotes, and a single letter. */
export const isWhole = ({ text, exact }: Words): boolean => text !== null && (exact || [...text].length === 1);

const isWordLetter = (letter: string | undefined): boolean => letter !== undefined && /[\p{L}\p{N}]/u.test(letter);

/** The words that a text is made of; folded as the text is. */
export const wordsOf = (text: string): string[] => text.match(/[\p{L}\p{N}]+/gu) ?? [];

/** Where a folded text has what is sought, from a place on; -1: nowhere. What is a single letter must be a word. */
export function placeOf(text: string, one: Words, from = 0): number {
  const { text: wanted } = one;
  if (wanted === null || wanted === '') return -1;
  const whole = isWhole(one);
  for (let at = text.indexOf(wanted, from); at >= 0; at = text.indexOf(wanted, at + 1)) {
    if (!whole) return at;
    const before = isWordLetter(text[at - 1]) && isWordLetter(wanted[0]);
    const after = isWordLetter(text[at + wanted.length]) && isWordLetter(wanted.at(-1));
    if (!before && !after) return at;
  }
  return -1;
}

/** Whether a record of several texts has everything that is sought, which none of it may be an amount or a day alone. */
export const hasAll = (texts: readonly string[], sought: readonly Words[]): boolean =>
  sought.length > 0 && sought.every((one) => texts.some((text) => placeOf(text, one) >= 0));

/** The same of a record that has an amount and a day too: each of what is sought is in one of its texts, or is one of them. */
export const hasEach = (
  record: { texts: readonly string[]; amount: Minor; day: DateText },
  sought: readonly SoughtInBooks[],
): boolean =>
  sought.every(
    (one) =>
      hasAll(record.texts, [one]) ||
      one.amounts.some(
        ({ from, to }) => Math.abs(record.amount) >= (from ?? 0) && (to === null || Math.abs(record.amount) <= to),
      ) ||
      (one.days !== null && record.day >= one.days.from && record.day <= one.days.to),
  );

/** What is sought by its words alone, of what has no amount and no day of its own. */
export const wordsAlone = (sought: readonly Sought[]) =>
  sought.map(({ text, exact }) => ({ text, exact, amounts: [], days: null }));

/** Where the words that are sought stand in a text, as pairs of places, in order and apart from each other. */
export function marksIn(text: string, sought: readonly Sought[]): [from: number, to: number][] {
  const { folded: plain, places } = foldedPlaces(text);
  const found: [number, number][] = [];
  for (const one of sought)
    for (let at = placeOf(plain, one); at >= 0 && one.text; at = placeOf(plain, one, at + one.text.length))
      found.push([places[at] as number, places[at + one.text.length] as number]);
  found.sort((a, b) => a[0] - b[0]);
  const apart: [number, number][] = [];
  for (const [from, to] of found) {
    const last = apart.at(-1);
    if (last && from <= last[1]) last[1] = Math.max(last[1], to);
    else apart.push([from, to]);
  }
  return apart;
}

/**
 * How well a record fits what is sought, the best first: its code or name is what was typed, begins with it, has words
 * that begin with it, has it somewhere.
 * @param own its code, number or name, folded, by which people know it
 */
export function fitOf(own: readonly string[], sought: readonly Sought[]): 0 | 1 | 2 | 3 {
  const typed = sought.flatMap(({ text }) => text ?? []).join(' ');
  if (typed === '') return 3;
  if (own.includes(typed)) return 0;
  if (own.some((text) => text.startsWith(typed))) return 1;
  const begins = (text: string): boolean => own.some((o) => wordsOf(o).some((word) => word.startsWith(text)));
  return sought.every(({ text }) => text !== null && begins(text)) ? 2 : 3;
}
