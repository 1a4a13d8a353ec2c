import { isLineNumber, lineField, type SortField } from '@/core/lineFields';
import { quoted } from '../duck';
import type { From, Sort } from '../ledgerPlaces';
import { type Copied, columnLines, placesOf, windowLines } from './legs';
import { partName } from './manifest';
import { isTextColumn, textTable } from './shape';
import { day as dayText, NUMBERS, Texts, whole } from './words';

/** Pages of lines by the copies: they say which lines are on a page, the database has what is on them. */

/** A line by the books, the entry and the number that it has. */
export interface LineKey {
  entity: number;
  entry: number;
  line_no: number;
  /** Σ of the lines up to it in ledger order, where it was asked for. */
  running?: number;
}

/**
 * What lines `s` are put in order by, as SQL; a text by its number, which is in the order of texts.
 * @param entity what tells the company of a line
 */
function sortIn(by: SortField, entity: string): { sql: string; text: string | null } {
  const own = (sql: string) => ({ sql, text: null });
  const ofText = (column: string) => ({ sql: `s.${column}`, text: column });
  switch (by) {
    case 'date':
      return own('s.day');
    case 'amount':
      return own('abs(s.amount)');
    case 'period':
      return own('s.period');
    case 'account':
      return ofText('account_code');
    case 'entity':
      return own(entity);
    default: {
      if (isLineNumber(by)) return own(NUMBERS[by]);
      const { column } = lineField(by);
      return isTextColumn(column) ? ofText(column) : own(`s.${column}`);
    }
  }
}

const direction = ({ descending }: Sort): string => `${descending ? 'desc' : 'asc'} nulls last`;

/**
 * The lines of a page in any order; where several are alike, in ledger order. Each part finds its own first ones, by
 * numbers alone; only of these are the texts compared between parts.
 */
export function sortedKeys(
  { question, columns, limitMs }: Copied,
  sorts: readonly Sort[],
  offset: number,
  limit: number,
): Promise<LineKey[]> {
  const texts = new Texts();
  const order = sorts.map((sort, i) => `k${i} ${direction(sort)}`);
  const legs = placesOf(question, columns).map((place) => {
    const part = partName(place.part);
    const by = sorts.map((sort) => sortIn(sort.by, quoted(place.entity.entity.code)));
    const own = ['s.day', 's.entry_number', 's.entry', 's.line_no'];
    const first = `select ${[...by.map(({ sql }, i) => `${sql} as k${i}`), ...own].join(', ')}
      from ${part}.line s where ${windowLines(place, question, texts).join(' and ')}
      order by ${[...order, ...own].join(', ')} limit ${whole(offset + limit)}`;
    const told = by.map(({ text }, i) => `${text === null ? `f.k${i}` : `t${i}.body`} as k${i}`);
    const joined = by.flatMap(({ text }, i) =>
      text === null ? [] : [`left join ${part}.${textTable(text)} t${i} on t${i}.id = f.k${i}`],
    );
    return `select ${[...told, 'f.day', 'n.body as entry_number', `${whole(place.books)} as entity`, 'f.entry', 'f.line_no'].join(', ')}
      from (${first}) f join ${part}.${textTable('entry_number')} n on n.id = f.entry_number ${joined.join(' ')}`;
  });
  return columns.engine.rows<LineKey>(
    `select entity, entry, line_no from (${legs.join(' union all ')}) s
     order by ${[...order, LEDGER_ORDER].join(', ')} limit ${whole(limit)} offset ${whole(offset)}`,
    texts.values,
    limitMs,
  );
}

/** The same with the running balance of every line, for which all lines are put in ledger order first. */
export function sortedKeysRunning(
  { question, columns, limitMs }: Copied,
  sorts: readonly Sort[],
  offset: number,
  limit: number,
): Promise<LineKey[]> {
  const texts = new Texts();
  const companies = question.entities.flatMap((e) =>
    e.books.map((books) => `when ${whole(books)} then ${quoted(e.entity.code)}`),
  );
  const by = sorts.map((sort) => sortIn(sort.by, `case s.entity ${companies.join(' ')} end`));
  const bodies = [...new Set(['entry_number', ...by.flatMap(({ text }) => text ?? [])])];
  const order = sorts.map((sort, i) => `${by[i]?.sql} ${direction(sort)}`);
  return columns.engine.rows<LineKey>(
    `select s.entity, s.entry, s.line_no, s.running from (
       select s.*, sum(s.amount) over (order by ${LEDGER_ORDER} rows unbounded preceding)::bigint as running
       from ${columnLines(question, columns, texts, { bodies })} s) s
     order by ${[...order, LEDGER_ORDER].join(', ')} limit ${whole(limit)} offset ${whole(offset)}`,
    texts.values,
    limitMs,
  );
}

const LEDGER_ORDER = 's.day, s.entry_number, s.entity, s.entry, s.line_no';

/** The lines of a page in ledger order. */
export function ledgerKeys(
  { question, columns, limitMs }: Copied,
  from: From,
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
    limitMs,
  );
}
