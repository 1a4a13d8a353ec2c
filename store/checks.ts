import { type Db, rowsOf } from './db';
import { SUMMARIES } from './layers';

/** Recomputes every summary, load by load, from the lines themselves, one after the other. */
export async function* faultySummaries(db: Db): AsyncGenerator<{ table: string; faults: number; rows: number }> {
  const slots = await rowsOf<{ slot: number }>(db, 'select slot from dimension order by slot');
  const members = slots.map(({ slot }) => `select l.*, ${Number(slot)}::smallint as slot, d${Number(slot)} as member from layers l`);
  for (const [table, keys] of SUMMARIES) {
    if (table === 'balance_member' && members.length === 0) continue;
    const source = table === 'balance_member' ? `(${members.join(' union all ')})` : 'layers';
    const [row] = await rowsOf<{ faults: number; rows: number }>(
      db,
      `with layers as (
         select *, load as layer, 1 as times from line
         union all
         select *, replaced_by, -1 from line where replaced_by <> 2147483647),
       truth as (
         select ${keys}, layer as load, sum(times) as count, sum(case when side = 1 then times * amount else 0 end) as debit,
           sum(case when side = 1 then 0 else -times * amount end) as credit
         from ${source} s group by ${keys}, layer),
       kept as (select ${keys}, load, sum(count) as count, sum(debit) as debit, sum(credit) as credit from ${table} group by ${keys}, load)
       select (select count(*) from kept)::integer as rows, count(*)::integer as faults from (
         select ${keys}, load, coalesce(t.count, 0) - coalesce(k.count, 0) as count,
           coalesce(t.debit, 0) - coalesce(k.debit, 0) as debit, coalesce(t.credit, 0) - coalesce(k.credit, 0) as credit
         from truth t full join kept k using (${keys}, load)) d
       where count <> 0 or debit <> 0 or credit <> 0`,
    );
    yield { table, faults: row?.faults ?? 0, rows: row?.rows ?? 0 };
  }
}

/** How many entries have visible lines that do not sum to nothing. */
export async function unbalancedEntries(db: Db): Promise<number> {
  const [row] = await rowsOf<{ n: number }>(
    db,
    `select count(*)::integer as n from (
       select entry from line where replaced_by = 2147483647 group by entity, entry having sum(amount) <> 0) e`,
  );
  return row?.n ?? 0;
}
