import type { DateText } from '@/core/dates';
import type { Neighbours, UsualDays } from '@/core/ledgerOrder';
import { answerOf } from './answer';
import { type Db, rowsOf } from './db';
import { linesFrom } from './figureSql';
import type { Question } from './question';

/** What is usual is told by so many lines at the least. */
const TELLING_LINES = 20;
/** Of so many in a hundred the days are usual. */
const USUAL_SHARE = 0.95;
/** Numbers before and after that are looked at. */
const NEAR = 10;

/**
 * By how many days lines of a figure differ from their documents' dates and from the days they were entered.
 * @param every of so many entries one is looked at
 */
export async function usualDays(db: Db, question: Question, every: number): Promise<UsualDays> {
  const lines = linesFrom(question, { bodies: ['document_date', 'entered_at'] });
  const [document, entered] = lines.columns
    ? ['try_cast(left(s.document_date, 10) as date)', 'try_cast(left(s.entered_at, 10) as date)']
    : [dateIn(`s.extra->>'document_date'`), dateIn('e.entered_at')];
  const from = lines.columns ? lines.sql : `from (select s.* ${lines.sql}) s join entry e on e.id = s.entry where true`;
  const days = (of: string): string => (lines.columns ? `abs(date_diff('day', ${of}, s.day))` : `abs(s.day - ${of})`);
  const [row] = await answerOf<{ document: number | null; documents: number; entered: number | null; entries: number }>(
    db,
    lines,
    `select percentile_disc(${USUAL_SHARE}) within group (order by document) as document, count(document) as documents,
       percentile_disc(${USUAL_SHARE}) within group (order by entered) as entered, count(entered) as entries
     from (select ${days(document as string)} as document, ${days(entered as string)} as entered ${from}${every > 1 ? ` and s.entry % ${Number(every)} = 0` : ''}) d`,
  );
  return {
    document: row && row.documents >= TELLING_LINES ? row.document : null,
    entered: row && row.entries >= TELLING_LINES ? row.entered : null,
  };
}

/** A text that begins as a date, as a date; else nothing. */
const dateIn = (text: string): string =>
  `case when ${text} ~ '^\\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\\d)' then left(${text}, 10)::date end`;

/** Days of the entries with the numbers before and after some of one company's, within their series. */
export async function neighboursOf(
  db: Db,
  books: number,
  entries: readonly string[],
  asOf: number,
): Promise<Map<string, Neighbours>> {
  // All entries that are near are found first and their days read at once, each only once: those of a page are near each
  // other.
  const near = (sign: '<' | '>', way: 'desc' | 'asc'): string => `
    select k.number, '${sign}' as side, n.id, n.number as found from k cross join lateral (
      select e.id, e.number from entry e
      where e.entity = ${Number(books)} and e.number ${sign} k.number and length(e.number) = length(k.number)
        and left(e.number, length(k.series)) = k.series and e.number >= k.series and e.number < k.series || ':'
        and e.load <= ? and e.replaced_by > ?
      order by e.number ${way} limit ${NEAR}) n`;
  const days = (side: '<' | '>', way: 'desc' | 'asc'): string =>
    `array_agg(d.day::text order by near.found ${way}) filter (where near.side = '${side}')`;
  const rows = await rowsOf<{ number: string; before: DateText[] | null; after: DateText[] | null }>(
    db,
    `with k as materialized (select distinct number, regexp_replace(number, '[0-9]+$', '') as series
       from unnest(?::text[]) number where number ~ '[0-9]$'),
     near as materialized (${near('<', 'desc')} union all ${near('>', 'asc')}),
     d as materialized (select entry, min(day) as day from line
       where entity = ${Number(books)} and entry = any(array(select id from near)) group by entry)
     select near.number, ${days('<', 'desc')} as before, ${days('>', 'asc')} as after from near join d on d.entry = near.id
     group by near.number`,
    [[...entries], asOf, asOf, asOf, asOf],
  );
  return new Map(rows.map((row) => [row.number, { before: row.before ?? [], after: row.after ?? [] }]));
}
