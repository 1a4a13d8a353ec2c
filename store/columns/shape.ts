import { foldedSql } from '@/core/folded';
import { EXTRA_FIELDS } from '@/core/lineFields';
import { QUANTITY_DIGITS } from '@/core/lineStats';
import { NUMBER_SQL } from '../clauseSql';

/**
 * The shape of a part: a table `line` of numbers, in the order of a ledger, and for each column of texts a table that has
 * every text once, numbered in the order of its characters. A line names its texts by those numbers, so that comparing,
 * ordering and counting texts is done with numbers. What words are looked for in stands with the line as it is. Lines are
 * added up beforehand by whatever many of them have in common.
 */

/** Parts of another shape are as if they were not there. The next number for every change to it. */
const SHAPE = 4;
export const fileName = (what: string): string => `shape-${SHAPE}-${what}`;
export const isOfThisShape = (file: string): boolean => file.startsWith(fileName(''));

/** Columns that are numbers and days, as the database has them. */
const NUMBERS: [name: string, type: string, sql?: string][] = [
  ['period', 'smallint'],
  ['day_period', 'smallint'],
  ['status', 'tinyint'],
  ['kind', 'tinyint'],
  ['side', 'tinyint'],
  ['account', 'integer'],
  ['entry', 'integer'],
  ['line_no', 'integer'],
  ['day', 'date'],
  ...Array.from({ length: 8 }, (_, i): [string, string] => [`d${i + 1}`, 'integer']),
  ['load', 'integer'],
  ['replaced_by', 'integer'],
  ['amount', 'bigint'],
  ['currency_amount', 'bigint'],
  ['quantity', `decimal(30, ${QUANTITY_DIGITS})`, 's.quantity'],
  ['unit_price', 'bigint', NUMBER_SQL.unitPrice],
  ['currency_units', 'decimal(24, 4)', NUMBER_SQL.currencyAmount],
  ['tax_units', 'decimal(30, 6)', NUMBER_SQL.taxAmount],
];

/** Texts of the line itself, of what it names by a code, and what the file said beside. */
const LINE_TEXTS: [name: string, sql: string][] = [
  ['document', 's.document'],
  ['currency', 's.currency'],
  ['unit', 's.unit'],
  ['description', `nullif(s.description, '')`],
  ...EXTRA_FIELDS.map(({ column }): [string, string] => [column, `s.extra->>'${column}'`]),
];

/** Codes that a line names by a number of the database. */
export const CODES: [column: string, table: string][] = [
  ['account_code', 'account'],
  ['journal', 'journal'],
  ['counterparty', 'counterparty'],
  ['posted_by', 'ledger_user'],
];

/** Texts of the entry as a whole. */
export const ENTRY_TEXTS: [name: string, sql: string][] = [
  ['entry_number', 'e.number'],
  ['entry_description', `nullif(e.description, '')`],
  ['entered_at', 'e.entered_at'],
  ['approved_by', 'e.approved_by'],
  ['reversal_of', 'e.reversal_of'],
  ['source', 'e.source'],
];

export const TEXTS = [...LINE_TEXTS, ...ENTRY_TEXTS].map(([name]) => name).concat(CODES.map(([name]) => name));
const isText = new Set(TEXTS);
/** Whether a column of a part's lines is the number of a text. */
export const isTextColumn = (column: string): boolean => isText.has(column);

/** The table with the texts of a column, each once, numbered in the order of its characters. */
export const textTable = (column: string): string => `text_${column}`;

/** What else lines are added up by beforehand. */
export const SUMMED = [...TEXTS, 'day', 'magnitude', ...Array.from({ length: 8 }, (_, i) => `d${i + 1}`)];

/** The table in which lines are added up by a column of theirs. */
export const sumTable = (column: string): string => `sum_by_${column}`;
/** The columns by which lines are added up, as the tables of a part tell. */
export const summedIn = (tables: readonly string[]): string[] =>
  [...SUMMED, OTHER].filter((column) => tables.includes(sumTable(column)));

/** The column of a line that says what is on its other side (make.ts has its values). */
export const OTHER = 'other';
/** What it says where that are several accounts: what each has of it stands in the table of this name. */
export const SEVERAL = 2_147_483_647;
export const SHARED = 'shared';

/**
 * What of some lines is on each account on their other side, by the largest-remainder method in whole numbers
 * (core/otherSide has the rule): rows of entry, line_no, account, exact and amount.
 * @param hard relation of those lines: entry, line_no and amount, none of them nothing
 * @param whole relation of all lines of their entries that have an amount: entry, line_no, account and amount
 */
export const sharedOut = (hard: string, whole: string): string => `
  select entry, line_no, account, exact, sum(amount)::bigint as amount from (
    with sides as (
      select entry, count(*) filter (where amount > 0) as debits, count(*) filter (where amount < 0) as credits,
        coalesce(sum(amount) filter (where amount > 0), 0) as debit, coalesce(-sum(amount) filter (where amount < 0), 0) as credit
      from ${whole} group by entry
    ),
    opposite as (
      select h.entry, h.line_no, -sign(h.amount)::integer as sign, abs(h.amount)::hugeint as size, w.account, w.line_no as place,
        abs(w.amount)::hugeint as weight, (case when h.amount > 0 then e.credit else e.debit end)::hugeint as total,
        e.debits <= 1 or e.credits <= 1 as exact, case when h.amount > 0 then e.debits else e.credits end as own
      from ${hard} h join sides e on e.entry = h.entry join ${whole} w on w.entry = h.entry and sign(w.amount) = -sign(h.amount)
    ),
    shares as (
      select entry, line_no, account, exact, sign, place, (size * weight) // total as part, (size * weight) % total as rest, size
      from opposite where not (own = 1 and size = total)
    ),
    ranked as (
      select entry, line_no, account, exact, sign, part, row_number() over (partition by entry, line_no order by rest desc, place) as rank,
        size - sum(part) over (partition by entry, line_no) as remaining
      from shares
    )
    select entry, line_no, account, exact, sign * weight as amount from opposite where own = 1 and size = total
    union all
    select entry, line_no, account, exact, sign * (part + case when rank <= remaining then 1 else 0 end) as amount from ranked
  ) s group by all`;

/** Columns whose texts are looked through by their words, numbered by their place here. */
export const SOUGHT = ['description', 'entry_description', 'entry_number', 'document'] as const;
export type SoughtColumn = (typeof SOUGHT)[number];
/** So many letters of the tail of a word are kept: a longer piece is looked for by its first ones. */
export const TAIL = 8;

/** The words of a folded text in the words of the engine (core/searchWords, wordsOf). */
const WORDS = (text: string): string =>
  `case when strlen(${text}) = length(${text}) then regexp_extract_all(${text}, '[a-z0-9]+') else regexp_extract_all(${text}, '[\\p{L}\\p{N}]+') end`;

/**
 * What finds texts by any part of any of their words: every word once, numbered in the order of its letters; which texts
 * have it; and the tails of every word in their order, so that a part of a word is the beginning of one.
 */
export const soughtTables = (): string[] => [
  `create temporary table raw_word as ${SOUGHT.map(
    (column, i) =>
      `select ${i}::tinyint as col, id as text, unnest(list_distinct(${WORDS('plain')})) as body
       from (select id, ${foldedSql('body')} as plain from ${textTable(column)})`,
  ).join(' union all ')}`,
  `create table sought_word as select (row_number() over (order by body) - 1)::integer as id, body
   from (select distinct body from raw_word) order by body`,
  `create table sought_text as select w.id as word, r.col, r.text from raw_word r join sought_word w on w.body = r.body order by word, col, text`,
  'drop table raw_word',
  `create table sought_tail as select substr(body, i::integer, ${TAIL}) as tail, id as word
   from sought_word, range(1, 256) t(i) where i < length(body) order by tail`,
];

/** Where lines stand by what they are sought by beside their texts: the size of their amount, and their day. */
export const AMOUNT_PLACED = SOUGHT.length;
export const DAY_PLACED = SOUGHT.length + 1;

/**
 * Where the lines stand that have a text, an amount or a day: the number of their row by what is sought, in its order. A
 * few lines among millions are gone to without any others being looked at.
 */
export const placedTables = (): string[] => [
  'create table placed (col tinyint, value bigint, row integer)',
  ...[
    ...SOUGHT.map((column, i): [number, string] => [i, column]),
    [AMOUNT_PLACED, 'abs(amount)'] as [number, string],
    [DAY_PLACED, `datediff('day', date '1970-01-01', day)`] as [number, string],
  ].map(
    ([col, value]) =>
      `insert into placed select ${col}, ${value} as value, rowid from line where ${value} is not null order by value, rowid`,
  ),
];

/** What is copied out of the database: of lines, of entries, and of each table of codes. */
const LINE_COPY = [
  ...NUMBERS.map(([name, , sql]): [string, string] => [name, sql ?? `s.${name}`]),
  ...LINE_TEXTS,
  ...CODES.filter(([column]) => column !== 'account_code').map(([column]): [string, string] => [
    `${column}_id`,
    `s.${column}`,
  ]),
];
export const lineCopySql = (where: string): string =>
  `select ${LINE_COPY.map(([name, sql]) => `${sql} as ${name}`).join(', ')} from line s where ${where}`;
export const entryCopySql = (where: string): string =>
  `select e.id, ${ENTRY_TEXTS.map(([name, sql]) => `${sql} as ${name}`).join(', ')} from entry e where ${where}`;

/** Types of the columns of such a copy, as it is read back. */
export const lineTypes = (): Record<string, string> =>
  Object.fromEntries(
    LINE_COPY.map(([name]) => [
      name,
      NUMBERS.find(([n]) => n === name)?.[1] ?? (name.endsWith('_id') ? 'integer' : 'varchar'),
    ]),
  );
export const entryTypes = (): Record<string, string> => ({
  id: 'integer',
  ...Object.fromEntries(ENTRY_TEXTS.map(([name]) => [name, 'varchar'])),
});

/** Decimals in the size that is compared quickest, for columns whose values are all below the millions of millions. */
export const NARROW: Readonly<Record<string, string>> = {
  quantity: `decimal(18, ${QUANTITY_DIGITS})`,
  currency_units: 'decimal(18, 4)',
  tax_units: 'decimal(18, 6)',
};
export const NARROW_BELOW = 1e12;

/** Lines by the numbers of their own texts, from the copy of them. */
export const numberedLines = (narrow: ReadonlySet<string>): string => `
  select ${[
    ...NUMBERS.map(([name]) => (narrow.has(name) ? `l.${name}::${NARROW[name]} as ${name}` : `l.${name}`)),
    ...LINE_TEXTS.map(([name]) => `t_${name}.id as ${name}`),
    ...CODES.map(([column]) => `t_${column}.text as ${column}`),
    // By account and month, in slices of which the lines are put in order.
    'l.account::bigint * 100000 + year(l.day) * 12 + month(l.day) as place',
    'l.description as own_words',
  ].join(', ')}
  from raw_line l
  ${LINE_TEXTS.map(([name]) => `left join ${textTable(name)} t_${name} on t_${name}.body = l.${name}`).join('\n')}
  ${CODES.map(([column]) => `left join map_${column} t_${column} on t_${column}.id = l.${column === 'account_code' ? 'account' : `${column}_id`}`).join('\n')}`;

/** Entries by the numbers of their texts, with what is on the other side of their lines. */
export const numberedEntries = (): string => `
  select e.id, ${ENTRY_TEXTS.map(([name]) => `t_${name}.id as ${name}`).join(', ')}, o.of_debits, o.of_credits, e.entry_description as own_words
  from raw_entry e left join raw_other o on o.entry = e.id
  ${ENTRY_TEXTS.map(([name]) => `left join ${textTable(name)} t_${name} on t_${name}.body = e.${name}`).join('\n')}`;

/** The lines of a part, from lines `l` and entries `e`. What is on each side is added up more often than anything else. */
export const finishedLines = (): string => `
  select l.* exclude(place, own_words), ${ENTRY_TEXTS.map(([name]) => `e.${name}`).join(', ')},
    case when l.side = 1 then l.amount else 0 end as debit, case when l.side = 1 then 0 else -l.amount end as credit,
    length(abs(l.amount)::varchar)::tinyint as magnitude,
    case when l.amount = 0 then 0 when l.amount > 0 then e.of_debits else e.of_credits end as other,
    lower(concat_ws(chr(1), l.own_words, e.own_words)) as said
  from numbered_line l join numbered_entry e on e.id = l.entry`;
