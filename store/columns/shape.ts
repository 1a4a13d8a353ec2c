import { EXTRA_FIELDS } from '@/core/lineFields';
import { QUANTITY_DIGITS } from '@/core/lineStats';
import { NUMBER_SQL } from '../clauseSql';

/**
 * The shape of a part: a table `line` of whole numbers only, in the order of a ledger, and a table `text` that has every
 * text once, numbered in the order of its characters. A line names its texts by those numbers, so that comparing, ordering
 * and counting texts is done with numbers.
 */

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
  ['entry_number', 's.entry_number'],
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
const idOf = (column: string): string => (column === 'account_code' ? 'account' : column);

/** Texts of the entry as a whole. */
export const ENTRY_TEXTS: [name: string, sql: string][] = [
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

/** Lines by their texts' numbers, from copies `l` of lines, `e` of entries and `o` of what is on the other side. */
export function numberedSql(): string {
  const texts = [...LINE_TEXTS, ...ENTRY_TEXTS].map(([name]) => name);
  return `select ${[
    ...NUMBERS.map(([name]) => `l.${name}`),
    ...texts.map((name) => `t_${name}.id as ${name}`),
    ...CODES.map(([column]) => `t_${column}.text as ${column}`),
    // What is on each side is added up more often than anything else.
    'case when l.side = 1 then l.amount else 0 end as debit',
    'case when l.side = 1 then 0 else -l.amount end as credit',
    'case when l.amount = 0 then 0 else o.other end as other',
    'w.id as said',
  ].join(', ')}
    from raw_line l
    left join raw_entry e on e.id = l.entry
    left join said w on w.description is not distinct from l.description and w.entry_description is not distinct from e.entry_description
    left join raw_other o on o.entry = l.entry and o.side = (case when l.amount > 0 then 1 when l.amount < 0 then -1 else 0 end)
    ${LINE_TEXTS.map(([name]) => `left join map_${name} t_${name} on t_${name}.body = l.${name}`).join('\n')}
    ${ENTRY_TEXTS.map(([name]) => `left join map_${name} t_${name} on t_${name}.body = e.${name}`).join('\n')}
    ${CODES.map(([column]) => `left join map_${column} t_${column} on t_${column}.id = l.${column === 'account_code' ? 'account' : `${idOf(column)}_id`}`).join('\n')}`;
}
