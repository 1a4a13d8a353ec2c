import { addDays, lastOfMonth, mondayOf } from '@/core/dates';
import type { Clause, Split } from '@/core/figure';
import { isAttribute, isLineNumber, lineField } from '@/core/lineFields';
import { exponentOf } from '@/core/money';
import { bands } from '@/core/sizes';
import { comparisonOf, isPattern, oneValue, type Range, rangeOf, type ValueTest } from '@/core/values';
import { dimensionOf, likeOf, memberIds, oppositeIds } from '../clauseSql';
import { KIND, STATUS } from '../codes';
import { quoted } from '../duck';
import { enteredThenSql } from '../enteredWhen';
import type { EntityQuestion, Question } from '../question';
import { type Part, partName } from './manifest';
import { isTextColumn, textTable } from './shape';

/**
 * What a line is asked for and split by, in the words of the copies: the same as `clauseSql` says to the database. Numbers
 * and days stand in the SQL, so that the engine sees which of its blocks it need not read; texts are handed over beside.
 */

/** One part of one company's books. */
export interface Place {
  entity: EntityQuestion;
  books: number;
  part: Part;
}

/** The texts of a question to the copies while it is written, by their numbers in it. */
export class Texts {
  readonly values: string[] = [];
  of(text: string): string {
    this.values.push(text);
    return `$${this.values.length}::varchar`;
  }
}

export const whole = (n: number): string => {
  if (!Number.isSafeInteger(n)) throw new RangeError(`${n} is no whole number`);
  return String(n);
};
export const day = (text: string): string => {
  if (!/^\d{4}-\d\d-\d\d$/.test(text)) throw new RangeError(`“${text}” is no day`);
  return `date '${text}'`;
};
const DECIMAL = /^[+-]?\d{1,24}(\.\d{1,8})?$/;
const decimal = (text: string): string => {
  if (!DECIMAL.test(text.trim())) throw new RangeError(`“${text}” is no number of the copies`);
  return text.trim();
};

/** The ranges of numbers that a clause asks for: of numbers of lines, and of texts that are digits. */
function rangesOfNumbers(clause: Clause): Range[] {
  const any: readonly unknown[] = 'any' in clause ? clause.any : [];
  if (isLineNumber(clause.on)) return any.filter((range): range is Range => range !== null);
  if (!isAttribute(clause.on)) return [];
  const ranges = any.flatMap((value) => (typeof value === 'string' ? (rangeOf(value) ?? []) : []));
  return ranges.filter((range) => comparisonOf(range) === 'digits');
}

/** Whether the copies can hold all numbers of a question's ranges against their own; what is longer is for the database. */
export const expressible = ({ figure }: Question): boolean =>
  figure.where
    .flatMap(rangesOfNumbers)
    .every(({ from, to }) => [from, to].every((end) => end === null || DECIMAL.test(end.trim())));

/** An entry with the number of one of its lines as one number: no entry has as many lines. */
const LINES_OF_ENTRY = 10_000_000;

export const among = (column: string, values: readonly string[]): string =>
  values.length === 0 ? 'false' : `${column} in (${values.join(', ')})`;

const RUN_LEAST = 3;
const RUNS_MOST = 8;

/**
 * The same of numbers of which many follow one another, as accounts of one heading do: a few ranges are planned in a
 * fraction of the time that hundreds of numbers take.
 */
export function amongNumbers(column: string, numbers: readonly number[]): string {
  const runs: [number, number][] = [];
  for (const n of [...new Set(numbers)].sort((a, b) => a - b)) {
    const last = runs.at(-1);
    if (last && last[1] === n - 1) last[1] = n;
    else runs.push([n, n]);
  }
  const long = runs.filter(([from, to]) => to - from + 1 >= RUN_LEAST);
  if (long.length === 0 || long.length > RUNS_MOST) return among(column, numbers.map(whole));
  const rest = runs.filter((run) => !long.includes(run)).flatMap(([from, to]) => (from === to ? [from] : [from, to]));
  const parts = [
    ...long.map(([from, to]) => `${column} between ${whole(from)} and ${whole(to)}`),
    ...(rest.length > 0 ? [among(column, rest.map(whole))] : []),
  ];
  return parts.length === 1 ? (parts[0] as string) : `(${parts.join(' or ')})`;
}

/** Lines of a place that a question asks of, but for its window: of its status, its clauses, and as of its load. */
export function countedIn(place: Place, question: Question, texts: Texts): string[] {
  const { status, where } = question.figure;
  return [
    ...(status === 'all' ? [] : [`s.status = ${STATUS[status]}`]),
    ...visible('s', question),
    ...where.map((clause) => clauseIn(clause, place, question, texts)),
  ];
}

export const visible = (alias: string, { asOf }: Question): string[] => [
  `${alias}.load <= ${whole(asOf)}`,
  `${alias}.replaced_by > ${whole(asOf)}`,
];

function clauseIn(clause: Clause, place: Place, question: Question, texts: Texts): string {
  const not = (condition: string): string => ('not' in clause && clause.not ? `not ${condition}` : condition);
  switch (clause.on) {
    case 'dim': {
      const { slot } = dimensionOf(question, clause.dim);
      return not(`(${amongNumbers(`s.d${whole(slot)}`, memberIds(clause, question))})`);
    }
    case 'kind':
      return among(
        's.kind',
        clause.any.map((k) => whole(KIND[k])),
      );
    case 'period':
      return amongNumbers('s.period', clause.any);
    case 'day':
      return among('s.day', clause.any.map(day));
    case 'week':
      return days(clause.any.map((week) => [mondayOf(week), addDays(mondayOf(week), 6)]));
    case 'month':
      return days(
        clause.any.map((month) => [`${month}-01`, lastOfMonth(Number(month.slice(0, 4)), Number(month.slice(5)))]),
      );
    case 'min':
      return `abs(s.amount) >= ${whole(clause.amount)}`;
    case 'max':
      return `abs(s.amount) <= ${whole(clause.amount)}`;
    case 'begins':
      return `(${clause.any.map((digits) => `starts_with(abs(s.amount)::varchar, '${whole(Number(digits))}')`).join(' or ') || 'false'})`;
    case 'enteredWhen':
      return `s.entered_at in (select id from ${partName(place.part)}.${textTable('entered_at')} where ${enteredThenSql('body', clause.any)})`;
    case 'opposite': {
      const accounts = amongNumbers('o.account', oppositeIds(clause, question));
      // An entry with the side on which the other line is to be, as one number.
      const opposite = [accounts, 'o.amount <> 0', ...visible('o', question)].join(' and ');
      return `(s.amount <> 0 and s.entry::bigint * 2 + (s.amount > 0)::bigint in (
        select o.entry::bigint * 2 + (o.amount < 0)::bigint from ${partName(place.part)}.line o where ${opposite}))`;
    }
    case 'ticked':
      return not(
        `(${among(
          `s.entry::bigint * ${LINES_OF_ENTRY} + s.line_no`,
          clause.lines.map((t) => whole(t.id * LINES_OF_ENTRY + t.line)),
        )})`,
      );
    case 'text':
      return `contains(s.said, lower(${texts.of(clause.contains)}))`;
    case 'line':
    case 'quantity':
    case 'unitPrice':
    case 'currencyAmount':
    case 'taxAmount': {
      const column = NUMBERS[clause.on];
      const ranges = clause.any.map((range) => (range === null ? `${column} is null` : bounds(column, range)));
      return not(`coalesce((${ranges.join(' or ') || 'false'}), false)`);
    }
    default: {
      const { column } = lineField(clause.on);
      const none = clause.any.includes(null);
      const values = clause.any.filter((v) => v !== null);
      const found = valuesIn(`s.${column}`, `${partName(place.part)}.${textTable(column)}`, values, texts);
      if (!none && !clause.not) return found;
      return not(`coalesce(${values.length > 0 ? found : 'false'}${none ? ` or s.${column} is null` : ''}, false)`);
    }
  }
}

/** The numbers of a line beside its amount. */
export const NUMBERS = {
  line: 's.line_no',
  quantity: 's.quantity',
  unitPrice: 's.unit_price',
  currencyAmount: 's.currency_units',
  taxAmount: 's.tax_units',
} as const;

const days = (spans: readonly (readonly [string, string])[]): string =>
  spans.length === 0
    ? 'false'
    : `(${spans.map(([from, to]) => `s.day between ${day(from)} and ${day(to)}`).join(' or ')})`;

const bounds = (number: string, { from, to }: Range): string =>
  `(${[...(from === null ? [] : [`${number} >= ${decimal(from)}`]), ...(to === null ? [] : [`${number} <= ${decimal(to)}`])].join(' and ')})`;

/**
 * Lines whose text is one of the values, fits one of the patterns, or is in one of the ranges among them. Texts are numbered
 * in their order, so that what lies between two of them is a range of numbers.
 */
function valuesIn(column: string, table: string, any: readonly ValueTest[], texts: Texts): string {
  const values = any.flatMap((v) => oneValue(v) ?? []);
  const looked: string[] =
    values.length === 0
      ? []
      : [
          among(
            'body',
            values.map((v) => texts.of(v)),
          ),
        ];
  const found: string[] = [];
  for (const pattern of any.filter(isPattern)) {
    const like = likeOf(pattern);
    looked.push(`folded like lower(${texts.of(like)})${like.includes('\\') ? ` escape '\\'` : ''}`);
  }
  for (const range of any.map(rangeOf)) {
    if (range === null) continue;
    const comparison = comparisonOf(range);
    if (comparison === 'digits' || comparison === 'codes') looked.push(likeNumbers(range, texts));
    else found.push(betweenIn(column, table, range, texts));
  }
  if (looked.length > 0) found.push(`${column} in (select id from ${table} where ${looked.join(' or ')})`);
  return found.length === 0 ? 'false' : found.length === 1 ? (found[0] as string) : `(${found.join(' or ')})`;
}

/** See core/values: texts of digits are compared as numbers, others with texts of their own length. */
function likeNumbers(range: Range, texts: Texts): string {
  const { from, to } = range;
  if (comparisonOf(range) === 'digits')
    return `(case when regexp_full_match(body, '[0-9]+') then ${bounds('try_cast(body as decimal(38, 0))', range)} else false end)`;
  return `(body between ${texts.of(from as string)} and ${texts.of(to as string)} and length(body) = ${whole((from as string).length)})`;
}

/** Texts between two others; a day or a month takes with it whatever begins with it. */
function betweenIn(column: string, table: string, range: Range, texts: Texts): string {
  const { from, to } = range;
  const first = from === null ? [] : [`${column} >= (select min(id) from ${table} where body >= ${texts.of(from)})`];
  const last =
    to === null
      ? []
      : [
          `${column} <= (select max(id) from ${table} where body <= ${texts.of(to)}${comparisonOf(range) === 'dates' ? ` or starts_with(body, ${texts.of(to)})` : ''})`,
        ];
  return `(${[...first, ...last].join(' and ')})`;
}

/** What rows of a place fall under in a split. */
export interface Key {
  /** As lines are put together by it: a column as it is, which is quickest. */
  inner: string;
  /** As it is told: of what was put together by it under the name given. */
  outer(name: string): string;
  /** The column of whose texts it is the number; null: it is none. */
  text: string | null;
  /** Whether it needs the account of each line. */
  ofAccount?: true;
}

export const plain = (inner: string): Key => ({ inner, outer: (name) => name, text: null });

export function keyIn(split: Split, { entity }: Pick<Place, 'entity'>, question: Question): Key {
  switch (split.by) {
    case 'account':
    case 'heading':
      return { ...plain('s.account'), ofAccount: true };
    case 'type':
      return { inner: '0', outer: () => 'a.type', text: null, ofAccount: true };
    case 'entity':
      return { inner: '0', outer: () => quoted(entity.entity.code), text: null };
    case 'period':
      return plain('s.period');
    case 'month':
      return { ...plain('s.day'), outer: (name) => `strftime(${name}, '%Y-%m')` };
    case 'week':
      return { ...plain('s.day'), outer: (name) => `strftime(${name}, '%G-W%V')` };
    case 'day':
      return { ...plain('s.day'), outer: (name) => `${name}::varchar` };
    case 'dim':
      return plain(`s.d${whole(dimensionOf(question, split.dim).slot)}`);
    case 'kind':
      return plain('s.kind');
    case 'size': {
      const all = bands(exponentOf(question.entities[0]?.entity.currency ?? 'XXX'));
      // Bands begin at powers of ten: how many digits an amount has says in which it is.
      const digits = ({ from }: (typeof all)[number]): number => (from === null ? 0 : String(from).length);
      const told = (of: string): string[] =>
        all.map((b) => `when ${of} >= ${digits(b)} then ${quoted(b.key)}`).reverse();
      return { inner: 's.magnitude', outer: (of) => `(case ${told(of).join(' ')} end)`, text: null };
    }
    default: {
      const { column } = lineField(split.by);
      return { ...plain(`s.${column}`), text: isTextColumn(column) ? column : null };
    }
  }
}

/** Keys of what was put together under an alias, as they are told, with the joins that give numbers of texts their texts. */
export function keysTold(keys: readonly Key[], { part }: Place, alias: string): { told: string[]; joined: string } {
  const texts = keys.flatMap(({ text }, i) =>
    text === null ? [] : [`left join ${partName(part)}.${textTable(text)} t${i} on t${i}.id = ${alias}.k${i}`],
  );
  return {
    told: keys.map(({ text, outer }, i) => `${text === null ? outer(`${alias}.k${i}`) : `t${i}.body`} as key${i}`),
    joined: texts.join(' '),
  };
}

/** Lines on some accounts; null: on any. */
export const onAccounts = (ids: readonly number[] | null): string[] =>
  ids === null ? [] : [amongNumbers('s.account', ids)];
