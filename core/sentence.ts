import { type Calendar, type Ordinal, type Period, periodText, yearOf } from './calendar';
import type { DateText } from './dates';
import { enteredWhenWords } from './enteredWhen';
import { type Clause, FIRST_SET, type Figure, type MemberPick, type Window } from './figure';
import { LINE_KINDS } from './ledger';
import { type Attribute, lineField } from './lineFields';
import { formatAmount } from './money';
import { selectionText } from './selection';
import { oneValue, type Range, rangeOf, type ValueTest } from './values';

/** One piece of the scope sentence; with `control` it is a part that can be changed, named by its parameter. */
export interface SentencePart {
  text: string;
  control?: string;
  /** The part is a clause that can be taken away. */
  removable?: boolean;
  /** It says all that the viewer may see. */
  granted?: boolean;
}

/** What the sentence must know of names. */
export interface SentenceNames {
  entity(code: string): string;
  calendar: Calendar;
  dimension(code: string): string;
  member(dim: string, code: string): string;
  account(code: string): string | null;
  currency: string;
  digits: number;
}

/** The question as prose: every clause of the figure is in it. */
export function sentenceOf(figure: Figure, names: SentenceNames): SentencePart[] {
  const parts: SentencePart[] = [
    { text: listed(figure.entities.map(names.entity)), control: 'entity' },
    { text: ', ' },
    {
      text: `${windowText(figure.window, names.calendar)}${endsAtLines(figure) ? ', the last with lines' : ''}`,
      control: 'window',
    },
    { text: ', ' },
    { text: `${STATUS_TEXT[figure.status]}${figure.accounting ? ' on the cash basis' : ''}`, control: 'status' },
    { text: ', ' },
    { text: `${figure.adjustments} adjustment periods`, control: 'adjustments' },
    { text: ', in ' },
    { text: currencyText(names.currency), control: 'in' },
  ];
  if (figure.basis)
    parts.push({ text: ', ' }, { text: basisText(figure.basis, figure.sets ?? []), control: 'basis', removable: true });
  if (figure.load !== null)
    parts.push({ text: ', ' }, { text: `as of load ${figure.load}`, control: 'load', removable: true });
  const clauses: SentencePart[] = [];
  if (figure.accounts) clauses.push({ text: accountsText(figure, names), control: 'accounts', removable: true });
  for (const clause of figure.where) clauses.push({ ...clauseText(clause, names), removable: true });
  clauses.forEach((clause, i) => {
    parts.push({ text: i === 0 ? '; only ' : ' and ' }, clause);
  });
  return parts;
}

/** Which proposed entries count: “with proposed entries”, “proposed entries only, of what-if”. */
function basisText(basis: NonNullable<Figure['basis']>, sets: readonly string[]): string {
  const words = basis === 'proposed' ? 'proposed entries only' : 'with proposed entries';
  return sets.length === 1 && sets[0] === FIRST_SET ? words : `${words} of ${listed(sets.map((s) => `“${s}”`))}`;
}

/** The window would go on to today, where nothing is booked yet. */
const endsAtLines = ({ window }: Figure): boolean => window.by === 'period' && window.endsAtLines === true;

/** Periods as months where they are months: "April to September 2026 (periods 1 to 6)". */
export function windowText(window: Window, cal: Calendar): string {
  if (window.by === 'date') {
    const to = dateText(window.to);
    if (window.fromFirst) return `everything up to ${to}`;
    return window.from === window.to ? to : `${dateText(window.from)} to ${to}`;
  }
  const first = found(cal, window.from);
  const last = found(cal, window.to);
  if (!first || !last) return `periods ${periodText(window.from)} to ${periodText(window.to)}`;
  if (window.fromFirst) return `everything up to ${periodName(last)} (period ${periodText(last.ordinal)})`;
  if (first.ordinal === last.ordinal) return `${periodName(first)} (period ${periodText(first.ordinal)})`;
  const numbers =
    first.year === last.year
      ? `periods ${first.number} to ${last.number} of ${last.year}`
      : `periods ${periodText(first.ordinal)} to ${periodText(last.ordinal)}`;
  const sameYear = first.from.slice(0, 4) === last.to.slice(0, 4) && isMonth(first);
  const from = sameYear ? periodName(first).replace(/ \d{4}$/, '') : periodName(first);
  return `${from} to ${periodName(last)} (${numbers})`;
}

/** "September 2026", "adjustments of March 2027", or a range of days for weekly periods. */
export function periodName(period: Period): string {
  if (period.adjustment) return `adjustments of the year to ${dateText(period.to)}`;
  if (isMonth(period)) return monthText(period.from.slice(0, 7));
  return `${dateText(period.from)} to ${dateText(period.to)}`;
}

/** 14 Apr 2026: a form that no locale reads otherwise. */
export const dateText = (date: DateText): string =>
  `${Number(date.slice(8))} ${MONTHS[Number(date.slice(5, 7)) - 1]?.slice(0, 3)} ${date.slice(0, 4)}`;

/** "2026-W31" → "week 31 of 2026" */
export const weekText = (week: string): string => `week ${Number(week.slice(6))} of ${week.slice(0, 4)}`;

/** "2026-03" → "March 2026" */
export const monthText = (month: string): string => `${MONTHS[Number(month.slice(5, 7)) - 1]} ${month.slice(0, 4)}`;

const found = (cal: Calendar, of: Ordinal): Period | undefined =>
  cal.periodsOf(yearOf(of)).find((p) => p.ordinal === of);

export const MONTHS = 'January February March April May June July August September October November December'.split(
  ' ',
);
const STATUS_TEXT = {
  posted: 'posted lines',
  all: 'posted and unposted lines',
  unposted: 'unposted lines only',
} as const;

function isMonth(period: Period): boolean {
  const next = new Date(`${period.to}T00:00:00Z`);
  next.setUTCDate(next.getUTCDate() + 1);
  return period.from.endsWith('-01') && next.getUTCDate() === 1 && period.from.slice(0, 7) === period.to.slice(0, 7);
}

export function currencyText(code: string): string {
  const name = new Intl.NumberFormat('en', { style: 'currency', currency: code, currencyDisplay: 'name' })
    .formatToParts(2)
    .find((p) => p.type === 'currency')?.value;
  return name ?? code;
}

function listed(words: string[], last = 'and'): string {
  if (words.length <= 1) return words[0] ?? 'nothing';
  if (words.length > 4) return `${words.slice(0, 3).join(', ')} ${last} ${words.length - 3} more`;
  return `${words.slice(0, -1).join(', ')} ${last} ${words[words.length - 1]}`;
}

function accountsText(figure: Figure, names: SentenceNames): string {
  const selection = figure.accounts;
  if (!selection) return 'all accounts';
  const [only] = selection.take;
  if (selection.take.length === 1 && selection.except.length === 0 && only?.is === 'code') {
    const name = names.account(only.code);
    return `account ${only.code}${name ? ` ${name}` : ''}`;
  }
  const text = selectionText(selection);
  return /^(type|group) /.test(text) ? `accounts of ${text}` : `accounts ${text}`;
}

function clauseText(clause: Clause, names: SentenceNames): SentencePart {
  switch (clause.on) {
    case 'dim': {
      const dimension = names.dimension(clause.dim).toLowerCase();
      return {
        control: `dim.${clause.dim}`,
        text: `${clause.not ? 'not ' : ''}${dimension} ${listed(
          clause.any.map((p) => pickText(p, clause.dim, names)),
          'or',
        )}`,
      };
    }
    case 'min':
      return { control: 'min', text: `amounts of ${formatAmount(clause.amount, names.digits)} and over` };
    case 'max':
      return { control: 'max', text: `amounts up to ${formatAmount(clause.amount, names.digits)}` };
    case 'begins':
      return { control: 'begins', text: `amounts that begin with ${listed(clause.any, 'or')}` };
    case 'enteredWhen':
      return { control: 'enteredWhen', text: `entered ${listed(clause.any.map(enteredWhenWords), 'or')}` };
    case 'opposite':
      return {
        control: 'opposite',
        text: `entries with ${listed(
          clause.any.map((code) => withName(code, names)),
          'or',
        )} on the other side`,
      };
    case 'ticked':
      return { control: 'ticked', text: clause.not ? 'lines not yet ticked' : 'lines that are ticked' };
    case 'text':
      return { control: 'text', text: `descriptions with “${clause.contains}”` };
    case 'kind': {
      const without = LINE_KINDS.filter((k) => !clause.any.includes(k));
      const text =
        without.length < clause.any.length
          ? `without lines of kind ${listed(without, 'or')}`
          : `lines of kind ${listed(clause.any, 'or')}`;
      return { control: 'kind', text };
    }
    case 'reconciled':
      if (clause.any.length === 1 && clause.any[0] === null)
        return { control: 'reconciled', text: clause.not ? 'reconciled lines' : 'lines not yet reconciled' };
      return said(clause);
    case 'period':
      return { control: 'period', text: `period ${listed(clause.any.map(periodText), 'or')}` };
    case 'month':
      return { control: 'month', text: listed(clause.any.map(monthText), 'or') };
    case 'week':
      return { control: 'week', text: listed(clause.any.map(weekText), 'or') };
    case 'day':
      return { control: 'day', text: listed(clause.any.map(dateText), 'or') };
    case 'line':
    case 'quantity':
    case 'unitPrice':
    case 'currencyAmount':
    case 'taxAmount': {
      const end = (text: string): string =>
        clause.on === 'unitPrice' ? formatAmount(Number(text), names.digits) : text;
      const said = clause.any.map((range) => (range === null ? 'none' : rangeText(range, end)));
      return { control: clause.on, text: `${clause.not ? 'not ' : ''}${clauseWord(clause.on)} ${listed(said, 'or')}` };
    }
    default:
      return said(clause);
  }
}

/** A clause by its word and the values that it asks for. */
function said(clause: Extract<Clause, { on: Attribute }>): SentencePart {
  const values = clause.any.map((v) => (v === null ? 'none' : wantedText(v)));
  const not = 'not' in clause && clause.not ? 'not ' : '';
  return { control: clause.on, text: `${not}${clauseWord(clause.on)} ${listed(values, 'or')}` };
}

function wantedText(wanted: ValueTest): string {
  const range = rangeOf(wanted);
  return range ? rangeText(range, (end) => end) : (oneValue(wanted) ?? wanted);
}

function rangeText({ from, to }: Range, text: (end: string) => string): string {
  if (from === null) return `up to ${text(to as string)}`;
  if (to === null) return `from ${text(from)}`;
  return from === to ? text(from) : `${text(from)} to ${text(to)}`;
}

/** What a clause on a field says. */
const clauseWord = (name: string): string => lineField(name).clause ?? name;

const withName = (code: string, names: SentenceNames): string => [code, names.account(code)].filter(Boolean).join(' ');

function pickText(pick: MemberPick, dim: string, names: SentenceNames): string {
  if (pick.is === 'none') return 'none';
  return pick.is === 'direct' ? `${names.member(dim, pick.code)} itself` : names.member(dim, pick.code);
}
