import { type Db, rowsOf } from './db';

/**
 * Loads as layers: a staged load becomes lines, entries and summaries in one transaction. Summaries are kept as
 * differences per load, so that they answer as of any load, and are never changed.
 */
export async function layStaged(db: Db, load: number): Promise<{ lines: number; entries: number }> {
  // Without fresh statistics the planner joins line by line.
  await db.raw('analyze staged_line');
  await db.raw(
    `create unlogged table staged_entry as
     select nextval(pg_get_serial_sequence('entry', 'id'))::integer as id, e.* from (
       select entity, entry_number, min(journal) as journal, min(entry_description) as description, min(entered_at) as entered_at,
         min(approved_by) as approved_by, min(reversal_of) as reversal_of
       from staged_line group by entity, entry_number order by entity, min(day), entry_number) e`,
  );
  await db.raw('analyze staged_entry');
  const added = (await db.raw(
    `insert into entry (id, entity, load, number, journal, description, entered_at, approved_by, reversal_of) overriding system value
     select id, entity, ?, entry_number, journal, description, entered_at, approved_by, reversal_of from staged_entry order by id`,
    [load],
  )) as { rowCount: number };
  const years = await rowsOf<{ entity: number; year: number }>(
    db,
    'select distinct entity, (period + 20000) / 100 + 1800 as year from staged_line order by 1, 2',
  );
  let lines = 0;
  for (const { entity, year } of years) lines += await layYear(db, load, entity, year);
  await addSummaries(db, load);
  await db.raw('drop table staged_entry, staged_line');
  return { lines, entries: added.rowCount };
}

/** Marks all lines of the periods as replaced by the load, and takes them out of the summaries from it on. */
export async function replacePeriods(db: Db, load: number, entity: number, from: number, to: number): Promise<number> {
  const bounds = [entity, from, to];
  const never = 'replaced_by = 2147483647';
  const [replaced] = await rowsOf<{ n: number }>(
    db,
    `with gone as (
       update line set replaced_by = ? where entity = ? and period between ? and ? and ${never} returning entry),
     closed as (
       update entry set replaced_by = ? where id in (select entry from gone) and ${never}
         and not exists (
           select from line l where l.entry = entry.id and l.entity = entry.entity and l.${never}
             and not l.period between ? and ?))
     select count(*)::integer as n from gone`,
    [load, ...bounds, load, from, to],
  );
  const negative = '-sum(count), -sum(debit), -sum(credit)';
  const having = 'having sum(count) <> 0 or sum(debit) <> 0 or sum(credit) <> 0';
  for (const [table, keys] of SUMMARIES) {
    await db.raw(
      `insert into ${table} (${keys}, load, count, debit, credit)
       select ${keys}, ?, ${negative} from ${table} where entity = ? and period between ? and ? group by ${keys} ${having}`,
      [load, ...bounds],
    );
  }
  return replaced?.n ?? 0;
}

/** Summary tables with their keys, load left out. */
export const SUMMARIES = [
  ['balance_period', 'entity, account, period, day_period, status, kind'],
  ['balance_day', 'entity, account, day, period, day_period, status, kind'],
  ['balance_member', 'entity, slot, member, account, period, day_period, status, kind'],
] as const;

/** A dimension that comes after lines have come: all of those lines have no member in it. */
export async function openSlot(db: Db, slot: number): Promise<void> {
  await db.raw(
    `insert into balance_member (entity, slot, member, account, period, day_period, status, kind, load, count, debit, credit)
     select entity, ?, 0, account, period, day_period, status, kind, load, count, debit, credit from balance_period`,
    [slot],
  );
}

/** Makes room for an entity's lines. */
export async function openEntity(db: Db, entity: number): Promise<void> {
  await db.raw(`create table line_e${Number(entity)} partition of line for values in (${Number(entity)}) partition by range (period)`);
}

const COLUMNS = `entity, period, day_period, status, kind, side, journal, account, line_no, day, posting_date, counterparty,
  posted_by, d1, d2, d3, d4, d5, d6, d7, d8, amount, currency_amount, entry_number, document, currency, quantity, unit,
  description, extra`;

/** Inserts a fiscal year's staged lines. A year's first lines go in before its indexes are made, which is much quicker. */
async function layYear(db: Db, load: number, entity: number, year: number): Promise<number> {
  const first = (year - 2000) * 100;
  const parent = `line_e${Number(entity)}`;
  const table = `${parent}_${year}`;
  const [there] = await rowsOf<{ there: boolean }>(db, 'select to_regclass(?) is not null as there', [table]);
  if (!there?.there) {
    await db.raw(`create table ${table} (like line including defaults,
      check (entity = ${Number(entity)} and period >= ${first} and period < ${first + 100}))`);
  }
  const result = (await db.raw(
    `insert into ${table} (entry, load, ${COLUMNS})
     select e.id, ?, ${COLUMNS.split(',')
       .map((c) => `s.${c.trim()}`)
       .join(', ')}
     from staged_line s join staged_entry e on e.entity = s.entity and e.entry_number = s.entry_number
     where s.entity = ? and s.period >= ? and s.period < ?
     order by s.account, s.day, s.entry_number, s.line_no`,
    [load, entity, first, first + 100],
  )) as { rowCount: number };
  if (!there?.there) {
    await db.raw(`create index on ${table} (entity, account, day, entry_number, line_no)`);
    await db.raw(`create index on ${table} (entity, day, entry_number, line_no)`);
    await db.raw(`create index on ${table} (entry, line_no) include (entity, account, amount)`);
    await db.raw(`alter table ${parent} attach partition ${table} for values from (${first}) to (${first + 100})`);
  }
  return result.rowCount;
}

async function addSummaries(db: Db, load: number): Promise<void> {
  const sides = ['sum(case when side = 1 then amount else 0 end)', 'sum(case when side = 1 then 0 else -amount end)'] as const;
  const sums = `count(*), ${sides.join(', ')}`;
  await db.raw(
    `insert into balance_day (entity, account, day, period, day_period, status, kind, load, count, debit, credit)
     select entity, account, day, period, day_period, status, kind, ?, ${sums}
     from staged_line group by entity, account, day, period, day_period, status, kind order by entity, account, day`,
    [load],
  );
  await db.raw(
    `insert into balance_period (entity, account, period, day_period, status, kind, load, count, debit, credit)
     select entity, account, period, day_period, status, kind, load, sum(count), sum(debit), sum(credit)
     from balance_day where load = ? and count > 0
     group by entity, account, period, day_period, status, kind, load order by entity, account, period`,
    [load],
  );
  const slots = (await rowsOf<{ slot: number }>(db, 'select slot from dimension order by slot')).map(({ slot }) => `d${Number(slot)}`);
  if (slots.length > 0) {
    // Lines that agree in everything but day and entry are added up once; every dimension then has fewer rows to read.
    const keys = 'entity, account, period, day_period, status, kind';
    await db.raw(
      `create unlogged table staged_sum as
       select ${keys}, ${slots.join(', ')}, count(*) as count, ${sides[0]} as debit, ${sides[1]} as credit
       from staged_line group by ${keys}, ${slots.join(', ')}`,
    );
    for (const slot of slots) {
      await db.raw(
        `insert into balance_member (entity, slot, member, account, period, day_period, status, kind, load, count, debit, credit)
         select entity, ?, ${slot}, account, period, day_period, status, kind, ?, sum(count), sum(debit), sum(credit)
         from staged_sum group by entity, ${slot}, account, period, day_period, status, kind order by entity, ${slot}, account, period`,
        [Number(slot.slice(1)), load],
      );
    }
    await db.raw('drop table staged_sum');
  }
  await db.raw(
    `insert into load_total (load, entity, period, lines, debit, credit)
     select load, entity, period, sum(count), sum(debit), sum(credit) from balance_period where load = ? and count > 0 group by 1, 2, 3`,
    [load],
  );
}
