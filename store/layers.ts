import type { Knex } from 'knex';
import { booksChanged } from './columns/manifest';
import { type Db, rowsOf } from './db';
import { asText, copyInto, type Stage } from './stage';
import { attachYear, layYears, type Year } from './yearTables';

/**
 * Loads as layers: staged lines become lines, entries and summaries in one transaction. The stage sorts and adds up, the
 * database only takes the rows. Summaries are kept as differences per load, so that they answer as of any load, and are
 * never changed.
 * @param outside for tables that are made apart from the transaction `db`
 * @param onShare told how much of the lines is laid, from 0 to 1
 */
export async function layStaged(
  db: Db,
  outside: Knex,
  stage: Stage,
  load: number,
  onShare: (share: number) => void = () => {},
): Promise<{ lines: number; entries: number }> {
  const [staged] = await stage.rows<{ lines: number }>('select count(*) as lines from staged_line');
  const { lines } = staged as { lines: number };
  await stage.roomFor(lines);
  const entries = await stage.gatherEntries();
  const [span] = await rowsOf<{ first: number }>(
    db,
    `select nextval(pg_get_serial_sequence('entry', 'id'))::integer as first`,
  );
  const first = (span as { first: number }).first;
  await db.raw(`select setval(pg_get_serial_sequence('entry', 'id'), ?)`, [first + entries]);
  await stage.run(`create view staged_entry as select (${first} + rowid)::integer as id, * from gathered_entry`);
  const [number, ...others] = ['entry_number', 'description', 'entered_at', 'approved_by', 'reversal_of', 'source'].map(
    asText,
  );
  const entryFile = await stage.writeOut(
    'entries',
    `select id, entity, ${load}, ${number}, journal, ${others.join(', ')} from staged_entry`,
  );
  const slots = (await rowsOf<{ slot: number }>(db, 'select slot from dimension order by slot')).map(({ slot }) =>
    Number(slot),
  );
  // The load's own connection takes one thing after the other.
  let taking: Promise<unknown> = Promise.resolve();
  const take = (target: string, path: string): void => {
    taking = taking.then(() => copyInto(db, target, path));
    taking.catch(() => {}); // told below; until then nobody listens
  };
  take(
    'entry (id, entity, load, number, journal, description, entered_at, approved_by, reversal_of, source)',
    entryFile,
  );
  let laid = 0;
  let made: Year[];
  try {
    made = await layYears(
      db,
      outside,
      stage,
      load,
      () => writeSummaries(stage, load, slots, take),
      (more) => {
        laid += more;
        onShare(laid / lines);
      },
    );
  } finally {
    await taking.catch(() => {});
  }
  await taking;
  for (const year of made) await attachYear(db, year);
  const books = await stage.rows<{ entity: number }>('select distinct entity from gathered_entry');
  await booksChanged(
    db,
    books.map(({ entity }) => entity),
    false,
  );
  return { lines, entries };
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
  await booksChanged(db, [entity], true);
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

/** Makes room for an entity's lines, with the rights of whoever owns the books: whoever asks may make no tables. */
export async function openEntity(db: Db, entity: number): Promise<void> {
  await db.raw('select open_books(?::smallint)', [entity]);
}

/** Has the stage add up, and hands on each file of sums as soon as it is written. */
async function writeSummaries(
  stage: Stage,
  load: number,
  slots: readonly number[],
  take: (target: string, path: string) => void,
): Promise<void> {
  const sums =
    'count(*) as count, sum(case when side = 1 then amount else 0 end) as debit, sum(case when side = 1 then 0 else -amount end) as credit';
  const moment = 'period, day_period, status, kind';
  const add = async (table: string, keys: string, name: string, sql: string): Promise<void> =>
    take(`${table} (load, ${keys}, count, debit, credit)`, await stage.writeOut(name, sql));
  const day = `entity, account, day, ${moment}`;
  const period = `entity, account, ${moment}`;
  await stage.run(`create table day_sum as select ${day}, ${sums} from staged_line group by all`);
  const ofDays = 'sum(count) as count, sum(debit) as debit, sum(credit) as credit';
  await add('balance_day', day, 'day', `select ${load}, * from day_sum order by entity, account, day`);
  await add(
    'balance_period',
    period,
    'period',
    `select ${load}, ${period}, ${ofDays} from day_sum group by all order by entity, account, period`,
  );
  for (const slot of slots) {
    await add(
      'balance_member',
      `slot, entity, member, account, ${moment}`,
      `slot-${slot}`,
      `select ${load}, ${slot}, entity, d${slot}, account, ${moment}, ${sums} from staged_line group by all order by entity, d${slot}, account, period`,
    );
  }
  take(
    'load_total (load, entity, period, lines, debit, credit)',
    await stage.writeOut('total', `select ${load}, entity, period, ${ofDays} from day_sum group by all order by all`),
  );
}
