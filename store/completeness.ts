import type { Gap } from '@/core/entryNumbers';
import { type Db, rowsOf } from './db';

/** A series of entry numbers of one journal: the same text before a running number. */
export interface Series {
  entity: string;
  journal: string | null;
  prefix: string;
  entries: number;
  first: string;
  last: string;
  /** Entries whose number has no running number at its end. */
  unnumbered: number;
}

export interface SeriesGap extends Gap {
  entity: string;
  prefix: string;
  /** How many numbers the series has in all. */
  of: number;
}

/** Running numbers longer than this are dates or account numbers rather than a sequence. */
const DIGITS_MAX = 15;

const NUMBERED = `
  select e.entity, e.journal, e.number, regexp_replace(e.number, '[0-9]+$', '') as prefix,
    case when length(substring(e.number from '[0-9]+$')) <= ${DIGITS_MAX} then substring(e.number from '[0-9]+$')::bigint end as n
  from entry e`;

/** Entry numbers of a load by journal and series. */
export const seriesOf = (db: Db, load: number): Promise<Series[]> =>
  rowsOf(
    db,
    `with mine as (${NUMBERED} where e.load = ?)
     select c.code as entity, j.code as journal, m.prefix, count(*)::integer as entries, count(*) filter (where m.n is null)::integer as unnumbered,
       (array_agg(m.number order by m.n, m.number))[1] as first, (array_agg(m.number order by m.n desc nulls last, m.number desc))[1] as last
     from mine m join entity c on c.id = m.entity left join journal j on j.id = m.journal
     group by 1, 2, 3 order by 1, 2 nulls last, 3 limit 500`,
    [load],
  );

/** Numbers missing between the first and the last of each series of a load, as of that load, as ranges. */
export const gapsOf = (db: Db, load: number, limit: number): Promise<SeriesGap[]> =>
  rowsOf(
    db,
    `with spans as (select entity, prefix, min(n) as low, max(n) as high from (${NUMBERED} where e.load = ?) m where n is not null group by 1, 2),
     there as (select distinct t.entity, t.prefix, t.n from (${NUMBERED} where e.load <= ? and e.replaced_by > ?) t
       join spans s on s.entity = t.entity and s.prefix = t.prefix and t.n between s.low and s.high),
     steps as (select entity, prefix, n, lag(n) over series as last, row_number() over series - 1 as before,
       count(*) over (partition by entity, prefix) as "of" from there window series as (partition by entity, prefix order by n))
     select c.code as entity, s.prefix, s.last + 1 as "from", s.n - 1 as "to", s.before::integer as before, s."of"::integer as "of"
     from steps s join entity c on c.id = s.entity where s.n > s.last + 1 order by 1, 2, 3 limit ?`,
    [load, load, load, limit],
  );

/** First and last posting day of a load, and debits and credits, by entity. */
export const reachOf = (
  db: Db,
  load: number,
): Promise<{ entity: string; first: string; last: string; lines: number; debit: number; credit: number }[]> =>
  rowsOf(
    db,
    `select c.code as entity, min(b.day) as first, max(b.day) as last, sum(b.count)::integer as lines, sum(b.debit)::bigint as debit, sum(b.credit)::bigint as credit
     from balance_day b join entity c on c.id = b.entity where b.load = ? and b.count > 0 group by 1 order by 1`,
    [load],
  );

/**
 * Accounts whose balance at the end of a period (summary by period) is not their balance before the next one (summary
 * by day), as of a load: none, unless something went wrong.
 */
export async function brokenContinuity(
  db: Db,
  entity: number,
  period: number,
  lastDay: string,
  load: number,
): Promise<number> {
  const [row] = await rowsOf<{ n: number }>(
    db,
    `select count(*)::integer as n from
       (select account, sum(debit - credit) as s from balance_period where entity = ? and day_period <= ? and load <= ? group by 1) a
       full join (select account, sum(debit - credit) as s from balance_day where entity = ? and day <= ? and load <= ? group by 1) b using (account)
     where coalesce(a.s, 0) <> coalesce(b.s, 0)`,
    [entity, period, load, entity, lastDay, load],
  );
  return row?.n ?? 0;
}
