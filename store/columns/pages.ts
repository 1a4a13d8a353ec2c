import { isLineNumber, lineField, type SortField } from '@/core/lineFields';
import type { Question } from '../question';
import { columnLines, placesOf, windowLines } from './legs';
import type { Columns } from './manifest';
import { partName } from './manifest';
import { isTextColumn, textTable } from './shape';
import { day as dayText, NUMBERS, quoted, Texts, whole } from './words';

/** Pages of lines by the copies: they say which lines are on a page, the database has what is on them. */

/** A line by the books, the entry and the number that it has. */
export interface LineKey {
  entity: number;
  entry: number;
  line_no: number;
  /** Σ of the lines up to it in ledger order, where it was asked for. */
  running?: number;
}

export interface ColumnSort {
  by: SortField;
  descending: boolean;
}

/** Where a page in ledger order begins. */
export type Begin =
  | { after: { day: string; entryNumber: string; entity: number; entry: number; line: number } }
  | { offset: number; day: string | null };

/** What lines `s` are put in order by; a text by its number, which is in the order of texts. */
function sortIn(by: SortField): { column: string; text: boolean } {
  switch (by) {
    case 'date':
      return { column: 'day', text: false };
    case 'amount':
      return { column: 'abs(s.amount)', text: false };
    case 'period':
      return { column: 'period', text: false };
    case 'account':
      return { column: 'account_code', text: true };
    case 'entity':
      return { column: '', text: false };
    default: {
      if (isLineNumber(by)) return { column: NUMBERS[by].slice(2), text: false };
      const { column } = lineField(by);
      return { column, text: isTextColumn(column) };
    }
  }
}

const direction = ({ descending }: ColumnSort): string => `${descending ? 'desc' : 'asc'} nulls last`;

/**
 * The lines of a page in any order; where several are alike, in ledger order. Each part finds its own first ones, by
 * numbers alone; only of these are the texts compared between parts.
 */
export function sortedKeys(
  question: Question,
  columns: Columns,
  sorts: readonly ColumnSort[],
  offset: number,
  limit: number,
): Promise<LineKey[]> {
  const texts = new Texts();
  const legs = placesOf(question, columns).map((place) => {
    const { part, books, entity } = place;
    const text = (column: string): string => `${partName(part)}.${textTable(column)}`;
    const by = sorts.map((sort, i) => ({ ...sortIn(sort.by), sort, i }));
    const own = by.map(({ column, sort, i }) =>
      sort.by === 'entity'
        ? `${quoted(entity.entity.code)} as k${i}`
        : `${column.includes('(') ? column : `s.${column}`} as k${i}`,
    );
    const first = `select ${[...own, 's.day', 's.entry_number', 's.entry', 's.line_no'].join(', ')}
      from ${partName(part)}.line s where ${windowLines(place, question, texts).join(' and ')}
      order by ${[...by.map(({ sort, i }) => `k${i} ${direction(sort)}`), 's.day', 's.entry_number', 's.entry', 's.line_no'].join(', ')}
      limit ${whole(offset + limit)}`;
    const told = by.map(({ text: isText, i }) => `${isText ? `t${i}.body` : `f.k${i}`} as k${i}`);
    const joined = by.flatMap(({ text: isText, column, i }) =>
      isText ? [`left join ${text(column)} t${i} on t${i}.id = f.k${i}`] : [],
    );
    return `select ${[...told, 'f.day', 'n.body as entry_number', `${whole(books)} as entity`, 'f.entry', 'f.line_no'].join(', ')}
      from (${first}) f join ${text('entry_number')} n on n.id = f.entry_number ${joined.join(' ')}`;
  });
  const order = [
    ...sorts.map((sort, i) => `k${i} ${direction(sort)}`),
    'day',
    'entry_number',
    'entity',
    'entry',
    'line_no',
  ];
  return columns.engine.rows<LineKey>(
    `select entity, entry, line_no from (${legs.join(' union all ')}) s order by ${order.join(', ')} limit ${whole(limit)} offset ${whole(offset)}`,
    texts.values,
    LIMIT_MS,
  );
}

/** The same with the running balance of every line, for which all lines are put in ledger order first. */
export function sortedKeysRunning(
  question: Question,
  columns: Columns,
  sorts: readonly ColumnSort[],
  offset: number,
  limit: number,
): Promise<LineKey[]> {
  const texts = new Texts();
  const codes = new Map(question.entities.flatMap((e) => e.books.map((books) => [books, e.entity.code])));
  const by = sorts.map((sort) => ({ ...sortIn(sort.by), sort }));
  const bodies = [...new Set(['entry_number', ...by.flatMap(({ text, column }) => (text ? [column] : []))])];
  const order = by.map(({ column, sort }) => {
    const own =
      sort.by === 'entity'
        ? `case s.entity ${[...codes].map(([books, code]) => `when ${whole(books)} then ${quoted(code)}`).join(' ')} end`
        : column.includes('(')
          ? column
          : `s.${column}`;
    return `${own} ${direction(sort)}`;
  });
  return columns.engine.rows<LineKey>(
    `select s.entity, s.entry, s.line_no, s.running from (
       select s.*, sum(s.amount) over (order by ${LEDGER_ORDER} rows unbounded preceding)::bigint as running
       from ${columnLines(question, columns, texts, { bodies })} s) s
     order by ${[...order, LEDGER_ORDER].join(', ')} limit ${whole(limit)} offset ${whole(offset)}`,
    texts.values,
    LIMIT_MS,
  );
}

const LEDGER_ORDER = 's.day, s.entry_number, s.entity, s.entry, s.line_no';
const LIMIT_MS = 5_000;

/** The lines of a page in ledger order. */
export function ledgerKeys(
  question: Question,
  columns: Columns,
  from: Begin,
  limit: number,
  openings: boolean,
): Promise<LineKey[]> {
  const texts = new Texts();
  const [offset, day] = 'after' in from ? [0, from.after.day] : [from.offset, from.day];
  const legs = placesOf(question, columns).map((place) => {
    const { part, books } = place;
    const text = `${partName(part)}.${textTable('entry_number')}`;
    const begins = day === null ? [] : [`s.day >= ${dayText(day)}`];
    if ('after' in from) {
      const { after } = from;
      const number = texts.of(after.entryNumber);
      const later = `(${whole(books)}, s.entry, s.line_no) > (${whole(after.entity)}, ${whole(after.entry)}, ${whole(after.line)})`;
      begins.push(
        `(s.day > ${dayText(after.day)}
          or s.entry_number > (select coalesce(max(id), -1) from ${text} where body <= ${number})
          or (s.entry_number = (select coalesce(max(id), -1) from ${text} where body = ${number}) and ${later}))`,
      );
    }
    return `select f.*, n.body as number, ${whole(books)} as entity from (
        select s.day, s.entry_number, s.entry, s.line_no from ${partName(part)}.line s
        where ${[...windowLines(place, question, texts, openings), ...begins].join(' and ')}
        order by s.day, s.entry_number, s.entry, s.line_no limit ${whole(offset + limit)}
      ) f join ${text} n on n.id = f.entry_number`;
  });
  return columns.engine.rows<LineKey>(
    `select entity, entry, line_no from (${legs.join(' union all ')}) s
     order by day, number, entity, entry, line_no limit ${whole(limit)} offset ${whole(offset)}`,
    texts.values,
    LIMIT_MS,
  );
}
