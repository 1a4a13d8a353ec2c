import { type Gap, numberAt, RUNNING_DIGITS } from '@/core/entryNumbers';
import { answerOf } from './answer';
import { type Db, rowsOf } from './db';
import { linesFrom } from './figureSql';
import type { Question } from './question';

/** In which order entries are read: by day and number, or those that came last first. */
export type EntryOrder = 'date' | 'entered';

/** The entries that a figure's lines are of, a page of them by their ids, and how many there are. */
export async function entryPage(
  db: Db,
  question: Question,
  { order, after, limit }: { order: EntryOrder; after: number; limit: number },
): Promise<{ entries: number[]; count: number }> {
  const page = `limit ${Number(limit)} offset ${Number(after)}`;
  if (order === 'entered') {
    const lines = linesFrom(question, { bodies: ['entered_at'] });
    const [entered, from] = lines.columns
      ? ['s.entered_at', lines.sql]
      : ['e.entered_at', `from (select s.* ${lines.sql}) s join entry e on e.id = s.entry where true`];
    const rows = await answerOf<{ entry: number; count: number }>(
      db,
      lines,
      `select entry, count(*) over ()::integer as count
       from (select s.entry, max(s.load) as load, max(${entered}) as entered ${from} group by s.entry) e
       order by left(entered, 10) desc nulls last, load desc, entered desc nulls last, entry desc ${page}`,
    );
    return { entries: rows.map((row) => row.entry), count: rows[0]?.count ?? 0 };
  }
  // By day first: numbers are looked at for the days of the page alone.
  const lines = linesFrom(question);
  const rows = await answerOf<{ entry: number; day: string; before: number; count: number }>(
    db,
    lines,
    `with e as materialized (select s.entry, min(s.day) as day ${lines.sql} group by s.entry),
       days as (select day from e order by day ${page}),
       ends as (select min(day) as first, max(day) as last from days)
     select e.entry, e.day::text as day, (select count(*) from e, ends where e.day < ends.first)::integer as before,
       (select count(*) from e)::integer as count
     from e, ends where e.day between ends.first and ends.last`,
  );
  const [first] = rows;
  if (!first) return { entries: [], count: 0 };
  const numbers = await rowsOf<{ id: number; number: string }>(db, 'select id, number from entry where id = any(?)', [
    rows.map((row) => row.entry),
  ]);
  const numberOf = new Map(numbers.map(({ id, number: of }) => [id, of]));
  const sorted = rows
    .map((row) => ({ ...row, number: numberOf.get(row.entry) ?? '' }))
    .sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : a.number < b.number ? -1 : a.number > b.number ? 1 : 0));
  const skipped = after - first.before;
  return { entries: sorted.slice(skipped, skipped + limit).map((row) => row.entry), count: first.count };
}

/** Which lines of some entries a figure holds, by entry and line number. */
export async function linesWithin(db: Db, question: Question, entries: readonly number[]): Promise<Set<string>> {
  const lines = linesFrom(question);
  const rows = await answerOf<{ entry: number; line_no: number }>(
    db,
    lines,
    `select s.entry, s.line_no ${lines.sql} and s.entry in (${entries.map(Number).join(', ') || '-1'})`,
  );
  return new Set(rows.map((row) => `${row.entry}/${row.line_no}`));
}

export interface SeriesRow {
  books: number;
  beginning: string;
  length: number;
  first: number;
  last: number;
  /** Different numbers there are. */
  count: number;
}

/** The series in which the entries of a figure are numbered, most numbers first. */
export async function seriesOf(db: Db, question: Question, limit: number): Promise<SeriesRow[]> {
  const lines = linesFrom(question, { bodies: ['entry_number'] });
  const running = `'[0-9]{1,${RUNNING_DIGITS}}$'`;
  const digits = lines.columns ? `regexp_extract(number, ${running})` : `substring(number from ${running})`;
  return answerOf(
    db,
    lines,
    `select books, beginning, length, min(n)::integer as first, max(n)::integer as last, count(*)::integer as count
     from (select distinct books, left(number, length(number) - length(digits)) as beginning, length(number)::integer as length, digits::integer as n
       from (select books, number, ${digits} as digits from (select distinct s.entity as books, s.entry_number as number ${lines.sql}) n) d
       where digits <> '') s
     group by books, beginning, length having count(*) > 1 order by count desc, beginning limit ${Number(limit)}`,
  );
}

/** Which numbers of a series no entry of the company bears, in rows from the first to the last, as of a load. */
export const gapsOf = (db: Db, series: SeriesRow, asOf: number, limit: number): Promise<Gap[]> => {
  const { books, beginning, length, first, last } = series;
  const digits = length - beginning.length;
  return rowsOf(
    db,
    `select gap_from as "from", gap_to as "to", before from (
       select lag(at) over (order by at) + 1 as gap_from, at - 1 as gap_to, (row_number() over (order by at) - 1)::integer as before from (
         select distinct right(number, ?)::integer as at from entry
         where entity = ? and number >= ? and number <= ? and length(number) = ? and left(number, ?) = ?
           and right(number, ?) ~ '^[0-9]+$' and load <= ? and replaced_by > ?) n) g
     where gap_to >= gap_from order by gap_from limit ?`,
    [
      ...[digits, books, numberAt(series, first), numberAt(series, last), length],
      ...[beginning.length, beginning, digits, asOf, asOf, limit],
    ],
  );
};
