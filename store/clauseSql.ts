import { type Clause, type LineNumber, membersOf, type Split } from '@/core/figure';
import { isLineNumber, lineField, type SortField } from '@/core/lineFields';
import { exponentOf } from '@/core/money';
import { collapsed } from '@/core/pattern';
import { bands } from '@/core/sizes';
import { comparisonOf, isPattern, oneValue, type Range, rangeOf, type ValueTest } from '@/core/values';
import { KIND } from './codes';
import { enteredThenSql } from './enteredWhen';
import { booksOf, type Leg, type Question } from './question';

/** The part of the translator (figureSql) that turns what a line is asked for, and split by, into SQL. */

/** Binds a value and gives its place in the SQL. */
export type Bind = (value: unknown, type: string) => string;

export function dimensionOf(question: Question, code: string) {
  const found = question.catalogue.dimensions.get(code);
  if (!found) throw new RangeError(`no dimension ${code}`);
  return found;
}

/** Members that a clause on a dimension takes, by the numbers that lines have them by; 0 stands for none. */
export function memberIds(clause: Clause & { on: 'dim' }, question: Question): number[] {
  const { tree, members } = dimensionOf(question, clause.dim);
  return clause.any.flatMap((pick) =>
    pick.is === 'none' ? [0] : [...membersOf(pick, tree)].map((code) => members.get(code) ?? -1),
  );
}

/** Accounts that are to be on the other side, in all companies of a question. */
export const oppositeIds = (clause: Clause & { on: 'opposite' }, { entities }: Question): number[] =>
  entities.flatMap((e) => clause.any.flatMap((code) => e.entity.accounts.get(code)?.id ?? []));

/** A text in which nothing stands for anything else, for SQL's like. */
const letterByLetter = (text: string): string => text.replace(/[\\%_]/g, '\\$&');

/** A pattern with * and ? as SQL's like has it. */
export const likeOf = (pattern: string): string =>
  letterByLetter(collapsed(pattern)).replaceAll('*', '%').replaceAll('?', '_');

/** What a row falls under in a split, as it is stored. */
export function keySql(split: Split, leg: Leg, question: Question): string {
  switch (split.by) {
    case 'account':
    case 'heading':
      return 's.account';
    case 'type':
      return 'a.type';
    case 'entity':
      return 'c.entity_code';
    case 'period':
      return 's.period';
    case 'month':
      return `to_char(s.day, 'YYYY-MM')`;
    case 'week':
      return `to_char(s.day, 'IYYY-"W"IW')`;
    case 'day':
      return 's.day::text';
    case 'dim':
      return leg.table === 'balance_member' ? 's.member' : `s.d${dimensionOf(question, split.dim).slot}`;
    case 'kind':
      return 's.kind';
    case 'size': {
      const [first, ...others] = bands(exponentOf(question.entities[0]?.entity.currency ?? 'XXX'));
      return `(case ${others
        .reverse()
        .map((b) => `when abs(s.amount) >= ${Number(b.from)} then '${b.key}'`)
        .join(' ')} else '${first?.key}' end)`;
    }
    default:
      return isInDictionary(split.by) ? `s.${lineField(split.by).column}` : textSql(split.by);
  }
}

/** Tables of codes that lines name by their ids. */
const DICTIONARY = { journal: 'journal', counterparty: 'counterparty', postedBy: 'ledger_user' } as const;
type InDictionary = keyof typeof DICTIONARY;
const isInDictionary = (name: string): name is InDictionary => lineField(name).stored === 'dictionary';

/** A field of a row `s` as text. */
function textSql(name: string): string {
  const { column, stored } = lineField(name);
  switch (stored) {
    case 'extra':
      return `s.extra->>'${column}'`;
    case 'entry': {
      // What an entry has as a whole is with the entry.
      const own = name === 'entryDescription' ? `nullif(x.description, '')` : `x.${column}`;
      return `(select ${own} from entry x where x.id = s.entry)`;
    }
    default:
      return name === 'description' ? `nullif(s.description, '')` : `s.${column}`;
  }
}

/** What rows `s` are put in order by; texts by their characters, as keys of splits are. */
export function sortSql(by: SortField): string {
  switch (by) {
    case 'date':
      return 's.day';
    case 'amount':
      return 'abs(s.amount)';
    case 'period':
      return 's.period';
    case 'account':
    case 'entity':
      return `(select code collate "C" from ${by} t where t.id = s.${by})`;
    default:
      if (isLineNumber(by)) return NUMBER_SQL[by];
      if (isInDictionary(by))
        return `(select code collate "C" from ${DICTIONARY[by]} t where t.id = s.${lineField(by).column})`;
      return textSql(by);
  }
}

/** A clause as a condition on rows `s`. */
export function clauseSql(clause: Clause, question: Question, leg: Leg, bind: Bind): string {
  switch (clause.on) {
    case 'dim': {
      const dim = dimensionOf(question, clause.dim);
      const column = leg.table === 'balance_member' ? 's.member' : `s.d${dim.slot}`;
      return `${clause.not ? 'not ' : ''}(${column} = any(${bind(memberIds(clause, question), 'integer[]')}))`;
    }
    case 'journal':
    case 'counterparty':
    case 'postedBy': {
      const none = clause.any.includes(null) ? ` or s.${lineField(clause.on).column} = 0` : '';
      const named = `s.${lineField(clause.on).column} = any(array(select id from ${DICTIONARY[clause.on]} where ${valuesSql('code', clause.any, bind)}))`;
      return `${clause.not ? 'not ' : ''}(${named}${none})`;
    }
    case 'kind':
      return `s.kind = any(${bind(
        clause.any.map((k) => KIND[k]),
        'smallint[]',
      )})`;
    case 'period':
      return `s.period = any(${bind(clause.any, 'smallint[]')})`;
    case 'week':
      return `to_char(s.day, 'IYYY-"W"IW') = any(${bind(clause.any, 'text[]')})`;
    case 'day':
      return `s.day = any(${bind(clause.any, 'date[]')})`;
    case 'month':
      return `to_char(s.day, 'YYYY-MM') = any(${bind(clause.any, 'text[]')})`;
    case 'min':
      return `abs(s.amount) >= ${bind(clause.amount, 'bigint')}`;
    case 'max':
      return `abs(s.amount) <= ${bind(clause.amount, 'bigint')}`;
    case 'begins': {
      const digits = bind(clause.any, 'text[]');
      return `(left(abs(s.amount)::text, 1) = any(${digits}) or left(abs(s.amount)::text, 2) = any(${bind(clause.any, 'text[]')}))`;
    }
    case 'enteredWhen':
      return enteredThenSql(textSql('enteredAt'), clause.any);
    case 'opposite': {
      const ids = oppositeIds(clause, question);
      const entries = (
        sign: string,
      ): string => `s.entry in (select o.entry from line o where o.entity in (${booksOf(question).join(', ')})
        and o.account = any(${bind(ids, 'integer[]')}) and o.amount ${sign} 0
        and o.load <= ${bind(question.asOf, 'integer')} and o.replaced_by > ${bind(question.asOf, 'integer')})`;
      return `((s.amount > 0 and ${entries('<')}) or (s.amount < 0 and ${entries('>')}))`;
    }
    case 'ticked': {
      const entries = bind(
        clause.lines.map((t) => t.id),
        'integer[]',
      );
      const numbers = bind(
        clause.lines.map((t) => t.line),
        'integer[]',
      );
      return `${clause.not ? 'not ' : ''}((s.entry, s.line_no) in (select * from unnest(${entries}, ${numbers})))`;
    }
    case 'text': {
      const pattern = `%${letterByLetter(clause.contains)}%`;
      return `(s.description ilike ${bind(pattern, 'text')}
        or exists (select from entry e where e.id = s.entry and e.description ilike ${bind(pattern, 'text')}))`;
    }
    case 'line':
    case 'quantity':
    case 'unitPrice':
    case 'currencyAmount':
    case 'taxAmount':
      return `${clause.not ? 'not ' : ''}coalesce(${numbersSql(NUMBER_SQL[clause.on], clause.any, bind)}, false)`;
    default: {
      const column = textSql(clause.on);
      const none = clause.any.includes(null) ? ` or ${column} is null` : '';
      return `${clause.not ? 'not ' : ''}coalesce(${valuesSql(column, clause.any, bind)}${none}, false)`;
    }
  }
}

/** Whether a text is one of the values, fits one of the patterns, or is in one of the ranges among them. */
function valuesSql(column: string, any: readonly (ValueTest | null)[], bind: Bind): string {
  const wanted = any.filter((v) => v !== null);
  const values = wanted.map(oneValue).filter((v) => v !== null);
  const patterns = wanted.filter(isPattern).map(likeOf);
  const found = [`${column} = any(${bind(values, 'text[]')})`];
  if (patterns.length > 0) found.push(`${column} ilike any(${bind(patterns, 'text[]')})`);
  for (const range of wanted.map(rangeOf)) if (range) found.push(betweenSql(column, range, bind));
  return found.length === 1 ? (found[0] as string) : `(${found.join(' or ')})`;
}

/** See core/values: how text is compared with the ends of a range. */
function betweenSql(column: string, range: Range, bind: Bind): string {
  const { from, to } = range;
  const comparison = comparisonOf(range);
  if (comparison === 'digits') {
    return `(case when ${column} ~ '^[0-9]+$' then ${boundsSql(`(${column})::numeric`, range, bind)} else false end)`;
  }
  const text = `(${column}) collate "C"`;
  const least = from === null ? [] : [`${text} >= ${bind(from, 'text')}`];
  const greatest = to === null ? [] : [`${text} <= ${bind(to, 'text')}`];
  if (comparison === 'dates' && to !== null)
    greatest[0] = `(${greatest[0]} or starts_with(${column}, ${bind(to, 'text')}))`;
  if (comparison === 'codes') least.push(`length(${column}) = ${(from as string).length}`);
  return `(${[...least, ...greatest].join(' and ')})`;
}

const boundsSql = (number: string, { from, to }: Range, bind: Bind): string =>
  `(${[...(from === null ? [] : [`${number} >= ${bind(from, 'numeric')}`]), ...(to === null ? [] : [`${number} <= ${bind(to, 'numeric')}`])].join(' and ')})`;

const numbersSql = (number: string, any: readonly (Range | null)[], bind: Bind): string =>
  `(${any.map((range) => (range === null ? `${number} is null` : boundsSql(number, range, bind))).join(' or ') || 'false'})`;

/** Transaction amounts are stored in minor units, of which currencies have different numbers to one. */
const UNITS = [0, 1, 3, 4].flatMap((digits) => {
  const codes = Intl.supportedValuesOf('currency').filter((code) => exponentOf(code) === digits);
  return codes.length === 0
    ? []
    : [`when s.currency in (${codes.map((c) => `'${c}'`).join(', ')}) then ${10 ** digits}`];
});

/** The numbers of a row `s` of the database's own lines. */
export const NUMBER_SQL: Record<LineNumber, string> = {
  line: 's.line_no',
  quantity: 's.quantity',
  // Exact, and rounded half away from zero, as core/money has it.
  unitPrice: 'div(2 * abs(s.amount) + abs(s.quantity), 2 * nullif(abs(s.quantity), 0))',
  currencyAmount: `(abs(s.currency_amount)::numeric / case ${UNITS.join(' ')} else 100 end)`,
  // As it came in the file, which may be no number.
  taxAmount: `(case when s.extra->>'tax_amount' ~ '^[+-]{0,1}[0-9]+([.][0-9]+){0,1}$' then abs((s.extra->>'tax_amount')::numeric) end)`,
};
