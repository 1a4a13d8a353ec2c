import { parsePeriod } from './calendar';
import { COMPARISON_LABEL, COMPARISONS, type Comparison } from './comparisons';
import { isDate } from './dates';
import type { Window } from './figure';
import { STATISTIC_HINT, STATISTIC_LABEL, STATISTICS, type Statistic } from './lineStats';
import { add } from './money';
import { dateText } from './sentence';
import type { Value } from './sheet';
import { shareOf } from './statement';

/** A column of a statement, as it is asked for: `ytd`, `budget:B1`, `change:year-before`, `share`. */
export type Column =
  | { key: string; is: 'window' }
  | { key: string; is: 'comparison'; of: Comparison }
  /** Any other window, by periods or dates. */
  | { key: string; is: 'span'; window: Window }
  | { key: string; is: 'budget'; version: string; of: 'window' | 'ytd' }
  /** Open orders that fall due up to the end of the window, or after it. */
  | { key: string; is: 'orders'; of: Due }
  | { key: string; is: 'change' | 'change%' | 'variance'; of: string; base: string }
  | { key: string; is: 'share'; of: string }
  /** The window in another currency. */
  | { key: string; is: 'currency'; of: string }
  /** A part of the window’s own lines that is usually asked about alone. */
  | { key: string; is: 'part'; of: Part }
  /** The window as it is booked, of what is proposed alone, or with it. */
  | { key: string; is: 'basis'; of: Basis }
  /** What is told of the lines of another column beside their sum: how many, how much of them, how large. */
  | { key: string; is: 'records'; of: Statistic; in: string }
  /** A column of one’s own over others: their sum, or the first over another. */
  | { key: string; is: 'own'; name: string; terms: { of: string; times: 1 | -1 }[]; over: string | null };

export const PARTS = ['unposted', 'adjustments'] as const;
export type Part = (typeof PARTS)[number];
export const BASES = ['booked', 'proposed', 'adjusted'] as const;
export type Basis = (typeof BASES)[number];
const BASIS_LABEL: Record<Basis, string> = { booked: 'Booked', proposed: 'Proposed', adjusted: 'Adjusted' };
const BASIS_HINT: Record<Basis, string> = {
  booked: 'What is booked, without anything that is proposed.',
  proposed: 'What proposed entries would add.',
  adjusted: 'What is booked, with the proposed entries.',
};
/** When open orders fall due: up to the end of a window, after it, or whenever. */
export const DUE = ['now', 'later', 'all'] as const;
export type Due = (typeof DUE)[number];
/** Which orders are in a column, by its key. */
export const ORDERS: Readonly<Record<string, Due>> = {
  committed: 'now',
  'committed-later': 'later',
  'committed-all': 'all',
};
const ORDERS_LABEL: Record<Due, string> = {
  now: 'Committed now',
  later: 'Committed later',
  all: 'Committed now and later',
};

const PART_LABEL: Record<Part, string> = { unposted: 'Unposted', adjustments: 'Adjustment entries' };

/** A column of one’s own has no more terms than a reader can follow. */
const TERMS_MAX = 6;

/** Raised for a word that names no column. */
export class ColumnError extends Error {}

/** Reads a column as it is written. @throws ColumnError */
export function readColumn(text: string): Column {
  if (text === 'window') return { key: text, is: 'window' };
  const comparison = COMPARISONS.find((c) => c === text);
  if (comparison) return { key: text, is: 'comparison', of: comparison };
  const part = PARTS.find((p) => p === text);
  if (part) return { key: text, is: 'part', of: part };
  const basis = BASES.find((b) => b === text);
  if (basis) return { key: text, is: 'basis', of: basis };
  const orders = ORDERS[text];
  if (orders) return { key: text, is: 'orders', of: orders };
  if (text.startsWith('own|')) return readOwn(text);
  const [word = '', ...rest] = text.split(':');
  const of = rest.join(':');
  const record = STATISTICS.find((r) => r === word);
  if (record) return { key: text, is: 'records', of: record, in: ownWindow(of || 'window') };
  if (word === 'in' && /^[A-Z]{3}$/.test(of)) return { key: text, is: 'currency', of };
  if (word === 'over' && of) return readSpan(text, of);
  if (word === 'budget' && of) return { key: text, is: 'budget', version: of, of: 'window' };
  if (word === 'budget-ytd' && of) return { key: text, is: 'budget', version: of, of: 'ytd' };
  if (word === 'share') return { key: text, is: 'share', of: of || 'window' };
  if ((word === 'change' || word === 'change%') && of) {
    const [base = '', over] = of.split('/');
    for (const key of [base, over ?? 'window']) sameCurrency(key);
    return { key: text, is: word, of: over ?? 'window', base };
  }
  if (word === 'variance' && of) return { key: text, is: 'variance', of: 'window', base: `budget:${of}` };
  if (word === 'variance-ytd' && of) return { key: text, is: 'variance', of: 'ytd', base: `budget-ytd:${of}` };
  throw new ColumnError(
    `“${text}” is no column; columns are ${COMPARISONS.join(', ')}, budget:<version>, budget-ytd:<version>, change:<column>, change%:<column>, variance:<version>, share, share:<column>, ${PARTS.join(', ')}, ${BASES.join(', ')}, ${Object.keys(ORDERS).join(', ')}, ${STATISTICS.join(', ')} (each also of another window, as quantity:year-before), own|<name>|+<column>|-<column>, own|<name>|<column>|/|<column>, in:<currency>, over:<from>..<to>`,
  );
}

/** Lines are of a window, not of what is calculated or planned. @throws ColumnError */
function ownWindow(key: string): string {
  if (['window', 'comparison', 'span', 'part', 'basis'].includes(readColumn(key).is)) return key;
  throw new ColumnError(`“${key}” has no lines of its own`);
}

/** `over:2026.01..2026.03` or `over:2026-01-15..2026-03-31`. */
function readSpan(key: string, of: string): Column {
  const [first = '', last = ''] = of.split('..');
  const [from, to] = [parsePeriod(first), parsePeriod(last)];
  if (from !== null && to !== null && from <= to) return { key, is: 'span', window: { by: 'period', from, to } };
  if (isDate(first) && isDate(last) && first <= last)
    return { key, is: 'span', window: { by: 'date', from: first, to: last } };
  throw new ColumnError(
    `“${of}” is no window; write two periods or two dates, the earlier first, such as 2026.01..2026.03`,
  );
}

/** Columns of two currencies are not calculated with each other. @throws ColumnError */
function sameCurrency(key: string): void {
  if (readColumn(key).is === 'currency')
    throw new ColumnError(`“${key}” is in another currency and stands for itself alone`);
}

/** `own|Left to spend|+budget:B1|-window`, or `own|Cost ratio|window|/|ytd`. */
function readOwn(text: string): Column {
  const [, name = '', ...parts] = text.split('|');
  const at = parts.indexOf('/');
  const over = at === -1 ? null : (parts[at + 1] ?? '');
  const terms = (at === -1 ? parts : parts.slice(0, at)).map((p) => ({
    of: p.replace(/^[+-]/, ''),
    times: p.startsWith('-') ? (-1 as const) : (1 as const),
  }));
  const fits =
    name.trim() !== '' && terms.length > 0 && terms.length <= TERMS_MAX && (at === -1 || parts.length === at + 2);
  if (!fits)
    throw new ColumnError(
      `“${text}” is no column of one’s own; write own|<name>|+<column>|-<column>, or own|<name>|<column>|/|<column>`,
    );
  for (const key of [...terms.map((t) => t.of), ...(over === null ? [] : [over])]) sameCurrency(key);
  return { key: text, is: 'own', name, terms, over };
}

/** Columns that must be calculated so that the wanted ones can be, bases before what is made of them. */
export function withBases(wanted: readonly Column[]): Column[] {
  const found = new Map<string, Column>();
  const take = (column: Column): void => {
    if (found.has(column.key)) return;
    if ('base' in column) for (const key of [column.of, column.base]) take(readColumn(key));
    if (column.is === 'share') take(readColumn(column.of));
    if (column.is === 'records') take(readColumn(column.in));
    if (column.is === 'own')
      for (const key of [...column.terms.map((t) => t.of), ...(column.over === null ? [] : [column.over])])
        take(readColumn(key));
    found.set(column.key, column);
  };
  take({ key: 'window', is: 'window' });
  for (const column of wanted) take(column);
  return [...found.values()];
}
/** Says a head in another language; what is between braces is put in afterwards. */
type Say = (head: string) => string;
const AS_IT_IS: Say = (head) => head;

/** What a column is called, in English unless it is said otherwise. */
export function columnLabel(column: Column, say: Say = AS_IT_IS): string {
  const withIn = (head: string, within: string): string => say(head).replace('{}', within);
  const ofBase = (head: string, key: string): string => {
    const label = columnLabel(readColumn(key), say);
    // English goes on in small letters whatever the word is; other languages have rules of their own.
    return withIn(head, say(head) === head ? label.charAt(0).toLowerCase() + label.slice(1) : label);
  };
  switch (column.is) {
    case 'window':
      return say('This window');
    case 'comparison':
      return say(COMPARISON_LABEL[column.of]);
    case 'span':
      return spanLabel(column);
    case 'currency':
      return withIn('In {}', column.of);
    case 'budget':
      return withIn(column.of === 'ytd' ? 'Budget {}, year to date' : 'Budget {}', column.version);
    case 'change':
      return ofBase('Change from {}', column.base);
    case 'change%':
      return ofBase('Change from {}, %', column.base);
    case 'variance':
      return ofBase('Variance from {}', column.base);
    case 'part':
      return say(PART_LABEL[column.of]);
    case 'basis':
      return say(BASIS_LABEL[column.of]);
    case 'orders':
      return say(ORDERS_LABEL[column.of]);
    case 'records':
      return column.in === 'window'
        ? STATISTIC_LABEL[column.of]
        : ofBase(`${STATISTIC_LABEL[column.of]}, {}`, column.in);
    case 'own':
      return column.over === null ? column.name : `${column.name}, %`;
    case 'share':
      return column.of === 'window' ? say('Share, %') : ofBase('Share {}, %', column.of);
  }
}

function spanLabel({ key, window }: Extract<Column, { is: 'span' }>): string {
  const [from, to] =
    window.by === 'date'
      ? [dateText(window.from), dateText(window.to)]
      : (key.slice('over:'.length).split('..') as [string, string]);
  return from === to ? from : `${from} to ${to}`;
}

const lower = (key: string): string => {
  const label = columnLabel(readColumn(key));
  return label.charAt(0).toLowerCase() + label.slice(1);
};

/** What each column says to a reader who is no accountant. */
export function columnHint(column: Column, shareRow: string | null): string {
  switch (column.is) {
    case 'window':
      return 'What was booked in the window of the sentence above, or what stood at its end.';
    case 'comparison':
      return `The same rows over: ${COMPARISON_LABEL[column.of].toLowerCase()}.`;
    case 'span':
      return `The same rows over ${spanLabel(column)}.`;
    case 'currency':
      return 'The same window in another currency: what stands at the closing rate, results at the averages of their periods, equity at its days.';
    case 'budget':
      return 'What was planned, as far as it was planned for these accounts.';
    case 'change':
      return 'The first less the second.';
    case 'change%':
      return 'The difference over the second; empty where there was nothing before.';
    case 'variance':
      return 'Actual less budget. More income or less expense is favourable.';
    case 'orders':
      return {
        now: 'Open orders that fall due up to the end of the window.',
        later: 'Open orders that fall due after the window.',
        all: 'All open orders, whenever they fall due.',
      }[column.of];
    case 'part':
      return column.of === 'unposted'
        ? 'What is entered for the window but not yet posted.'
        : 'What year-end adjustments made of the window.';
    case 'records':
      return STATISTIC_HINT[column.of];
    case 'basis':
      return BASIS_HINT[column.of];
    case 'own':
      return column.over === null
        ? `Made of: ${column.terms.map((t, i) => `${t.times === -1 ? 'less ' : i > 0 ? 'plus ' : ''}${lower(t.of)}`).join(' ')}.`
        : `${columnLabel(readColumn(column.terms[0]?.of ?? 'window'))} over ${lower(column.over)}; empty over nothing.`;
    case 'share':
      return `Each row over ${shareRow ? `“${shareRow}”` : 'the base row'} of the same column.`;
  }
}

/** A value of a derived column from those that it is made of; null where there is nothing to say. */
export function derived(
  column: Column,
  of: (key: string) => Value | undefined,
  base: (key: string) => Value | undefined,
): Value | null {
  const amount = (value: Value | undefined): number | null => (value?.is === 'amount' ? value.amount : null);
  switch (column.is) {
    case 'change':
    case 'variance': {
      const [a, b] = [amount(of(column.of)), amount(of(column.base))];
      return a === null || b === null ? null : { is: 'amount', amount: a - b };
    }
    case 'change%': {
      const [a, b] = [amount(of(column.of)), amount(of(column.base))];
      return a === null || b === null ? null : { is: 'share', millionths: shareOf(a - b, Math.abs(b)) };
    }
    case 'share': {
      const [a, b] = [amount(of(column.of)), amount(base(column.of))];
      return a === null || b === null ? null : { is: 'share', millionths: shareOf(a, b) };
    }
    case 'own': {
      const parts = column.terms.map((t) => ({ value: amount(valueAt(t.of, of, base)), times: t.times }));
      if (parts.some((p) => p.value === null)) return null;
      const sum = parts.reduce((all, p) => add(all, p.times * (p.value ?? 0)), 0);
      if (column.over === null) return { is: 'amount', amount: sum };
      const under = amount(valueAt(column.over, of, base));
      return under === null ? null : { is: 'share', millionths: shareOf(sum, under) };
    }
    default:
      return null;
  }
}

/** A column's value, itself derived if need be. */
const valueAt = (
  key: string,
  of: (key: string) => Value | undefined,
  base: (key: string) => Value | undefined,
): Value | undefined => of(key) ?? derived(readColumn(key), of, base) ?? undefined;

/** Whether a column's values are percent. */
export const isPercent = (column: Column): boolean =>
  column.is === 'change%' || column.is === 'share' || (column.is === 'own' && column.over !== null);
