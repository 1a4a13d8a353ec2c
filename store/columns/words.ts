import { addDays, lastOfMonth, mondayOf } from '@/core/dates';
import { type Clause, membersOf, type Split } from '@/core/figure';
import { type LineField, lineField } from '@/core/lineFields';
import { exponentOf } from '@/core/money';
import { collapsed } from '@/core/pattern';
import { bands } from '@/core/sizes';
import { comparisonOf, isPattern, oneValue, type Range, rangeOf, type ValueTest } from '@/core/values';
import { dimensionOf } from '../clauseSql';
import { KIND, STATUS } from '../codes';
import type { EntityQuestion, Question } from '../question';
import { type Part, partName } from './manifest';
import { isTextColumn } from './shape';

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

/** Whether the copies can hold all numbers of a question's ranges against their own; what is longer is for the database. */
export const expressible = ({ figure }: Question): boolean =>
  figure.where.every((clause) =>
    !('any' in clause)
      ? true
      : clause.any.every((asked) => {
          const range =
            typeof asked === 'string'
              ? rangeOf(asked)
              : asked !== null && typeof asked === 'object' && 'from' in asked
                ? asked
                : null;
          if (range === null || (typeof asked === 'string' && comparisonOf(range) !== 'digits')) return true;
          return [range.from, range.to].every((end) => end === null || DECIMAL.test(end.trim()));
        }),
  );
export const among = (column: string, values: readonly string[]): string =>
  values.length === 0 ? 'false' : `${column} in (${values.join(', ')})`;

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
      const dim = dimensionOf(question, clause.dim);
      const ids = clause.any.flatMap((pick) =>
        pick.is === 'none' ? [0] : [...membersOf(pick, dim.tree)].map((code) => dim.members.get(code) ?? -1),
      );
      return not(`(${among(`s.d${whole(dim.slot)}`, ids.map(whole))})`);
    }
    case 'kind':
      return among(
        's.kind',
        clause.any.map((k) => whole(KIND[k])),
      );
    case 'period':
      return among('s.period', clause.any.map(whole));
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
    case 'opposite': {
      const ids = question.entities.flatMap((e) => clause.any.flatMap((code) => e.entity.accounts.get(code)?.id ?? []));
      const entries = (sign: '<' | '>'): string =>
        `s.entry in (select o.entry from ${partName(place.part)}.line o where ${[among('o.account', ids.map(whole)), `o.amount ${sign} 0`, ...visible('o', question)].join(' and ')})`;
      return `((s.amount > 0 and ${entries('<')}) or (s.amount < 0 and ${entries('>')}))`;
    }
    case 'text':
      return `s.said in (select id from ${partName(place.part)}.words where contains(folded, lower(${texts.of(clause.contains)})))`;
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
      const found = `s.${column} in (select id from ${partName(place.part)}.text where ${valuesIn(values, texts)})`;
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

/** Texts that are one of the values, fit one of the patterns, or are in one of the ranges among them. */
function valuesIn(any: readonly ValueTest[], texts: Texts): string {
  const found = [
    among(
      'body',
      any.flatMap((v) => oneValue(v) ?? []).map((v) => texts.of(v)),
    ),
  ];
  for (const pattern of any.filter(isPattern)) {
    const written = collapsed(pattern);
    const like = written
      .replace(/[\\%_]/g, '\\$&')
      .replaceAll('*', '%')
      .replaceAll('?', '_');
    found.push(`folded like lower(${texts.of(like)})${like.includes('\\') ? ` escape '\\'` : ''}`);
  }
  for (const range of any.map(rangeOf)) if (range) found.push(betweenIn(range, texts));
  return `(${found.join(' or ')})`;
}

/** See core/values: how text is compared with the ends of a range. */
function betweenIn(range: Range, texts: Texts): string {
  const { from, to } = range;
  const comparison = comparisonOf(range);
  if (comparison === 'digits')
    return `(case when regexp_full_match(body, '[0-9]+') then ${bounds('try_cast(body as decimal(38, 0))', range)} else false end)`;
  const least = from === null ? [] : [`body >= ${texts.of(from)}`];
  const greatest = to === null ? [] : [`body <= ${texts.of(to)}`];
  if (comparison === 'dates' && to !== null) greatest[0] = `(${greatest[0]} or starts_with(body, ${texts.of(to)}))`;
  if (comparison === 'codes') least.push(`length(body) = ${whole((from as string).length)}`);
  return `(${[...least, ...greatest].join(' and ')})`;
}

/** What rows of a place fall under in a split. */
export interface Key {
  /** As lines are put together by it: a column as it is, which is quickest. */
  inner: string;
  /** As it is told: of what was put together by it under the name given. */
  outer(name: string, text: string): string;
  /** Whether it is the number of a text. */
  text: boolean;
}

const plain = (inner: string): Key => ({ inner, outer: (name) => name, text: false });

export function keyIn(split: Split, { entity }: Pick<Place, 'entity'>, question: Question): Key {
  switch (split.by) {
    case 'account':
    case 'heading':
      return plain('s.account');
    case 'type':
      return { inner: '0', outer: () => 'a.type', text: false };
    case 'entity':
      return { inner: '0', outer: () => quoted(entity.entity.code), text: false };
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
      const [, ...others] = all;
      const cases = others.map((b, i) => `when abs(s.amount) >= ${whole(Number(b.from))} then ${i + 1}`).reverse();
      return {
        inner: `(case ${cases.join(' ')} else 0 end)::tinyint`,
        outer: (name) => `(case ${name} ${all.map((b, i) => `when ${i} then ${quoted(b.key)}`).join(' ')} end)`,
        text: false,
      };
    }
    default: {
      const { column } = lineField(split.by) as LineField;
      return isTextColumn(column)
        ? { inner: `s.${column}`, outer: (_, text) => text, text: true }
        : plain(`s.${column}`);
    }
  }
}

export const quoted = (text: string): string => `'${text.replaceAll("'", "''")}'`;
