import type { Knex } from 'knex';
import { type Db, rowsOf } from './db';
import { copyInto, type Stage } from './stage';

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
  const [span] = await rowsOf<{ first: number }>(db, `select nextval(pg_get_serial_sequence('entry', 'id'))::integer as first`);
  const first = (span as { first: number }).first;
  await stage.run(
    `create table staged_entry as
     select (${first - 1} + row_number() over (order by entity, day, entry_number))::integer as id, * from (
       select entity, entry_number, min(day) as day, min(journal) as journal, min(entry_description) as description, min(entered_at) as entered_at,
         min(approved_by) as approved_by, min(reversal_of) as reversal_of, min(period) as first_period, max(period) as last_period
       from staged_line group by entity, entry_number)`,
  );
  const [counted] = await stage.rows<{ entries: number }>('select count(*) as entries from staged_entry');
  const { entries } = counted as { entries: number };
  await db.raw(`select setval(pg_get_serial_sequence('entry', 'id'), ?)`, [first + entries]);
  const entryFile = await stage.writeOut(
    'entries',
    `select id, entity, ${load}, entry_number, journal, description, entered_at, approved_by, reversal_of from staged_entry order by id`,
  );
  const years = await stage.rows<Year>('select entity, (period + 20000) // 100 + 1800 as year, count(*) as lines from staged_line group by all order by all');
  await dropUnattached(outside);
  const made: Year[] = [];
  let laid = 0;
  // The stage writes one file after the other, a year ahead of the database, which takes two at a time.
  const ahead = years.map(() => null as Promise<string> | null);
  let turn: Promise<unknown> = Promise.resolve();
  const inTurn = (write: () => Promise<string>): Promise<string> => {
    const mine = turn.then(write);
    turn = mine.catch(() => {});
    return mine;
  };
  const written = (at: number): Promise<string> | null => {
    const year = years[at];
    ahead[at] ??= year ? inTurn(() => writeYear(stage, load, year)) : null;
    return ahead[at] ?? null;
  };
  let next = 0;
  const takeYears = async (): Promise<void> => {
    for (let at = next++; at < years.length; at = next++) {
      const file = written(at) as Promise<string>;
      written(at + 1)?.catch(() => {}); // whoever takes it hears of it
      const year = years[at] as Year;
      if (await layYear(db, outside, year, await file)) made.push(year);
      laid += year.lines;
      onShare(laid / lines);
    }
  };
  try {
    await allDone([
      copyInto(db, 'entry (id, entity, load, number, journal, description, entered_at, approved_by, reversal_of)', entryFile).then(() =>
        addSummaries(db, load, (name, sql) => inTurn(() => stage.writeOut(name, sql))),
      ),
      takeYears(),
      takeYears(),
    ]);
    for (const year of made) await attachYear(db, year);
  } catch (error) {
    await turn;
    await dropUnattached(outside).catch(() => {}); // else the next load clears them away
    throw error;
  }
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

interface Year {
  entity: number;
  year: number;
  lines: number;
}

/** Writes a fiscal year's lines out in the order of the account ledgers. */
const writeYear = (stage: Stage, load: number, { entity, year }: Year): Promise<string> =>
  stage.writeOut(
    `lines-${entity}-${year}`,
    `select e.id, ${load}, ${COLUMNS.split(',')
      .map((c) => `s.${c.trim()}`)
      .join(', ')}
     from staged_line s join (
       select id, entry_number from staged_entry
       where entity = ${entity} and last_period >= ${firstOf(year)} and first_period < ${firstOf(year) + 100}) e on e.entry_number = s.entry_number
     where s.entity = ${entity} and s.period >= ${firstOf(year)} and s.period < ${firstOf(year) + 100}
     order by s.account, s.day, s.entry_number, s.line_no`,
  );

const firstOf = (year: number): number => (year - 2000) * 100;

const tableOf = ({ entity, year }: Year): string => `line_e${Number(entity)}_${Number(year)}`;

/**
 * Takes in a fiscal year's lines. A year's first lines go into a table of their own, made and indexed apart from the
 * load's transaction, which is much quicker; no question sees it before that transaction attaches it.
 * @returns whether the table is yet to be attached
 */
async function layYear(db: Db, outside: Knex, year: Year, path: string): Promise<boolean> {
  const table = tableOf(year);
  const first = firstOf(year.year);
  const columns = `(entry, load, ${COLUMNS})`;
  const [there] = await rowsOf<{ there: boolean }>(outside, 'select to_regclass(?) is not null as there', [table]);
  if (there?.there) {
    await copyInto(db, `${table} ${columns}`, path);
    return false;
  }
  await outside.transaction(async (apart) => {
    await apart.raw(`create table ${table} (like line including defaults,
      check (entity = ${Number(year.entity)} and period >= ${first} and period < ${first + 100}))`);
    await copyInto(apart, `${table} ${columns}`, path, true);
    await apart.raw(`create index on ${table} (entity, account, day, entry_number, line_no)`);
    await apart.raw(`create index on ${table} (entity, day, entry_number, line_no)`);
    await apart.raw(`create index on ${table} (entry, line_no) include (entity, account, amount)`);
  });
  return true;
}

async function attachYear(db: Db, year: Year): Promise<void> {
  const first = firstOf(year.year);
  await db.raw(`alter table line_e${Number(year.entity)} attach partition ${tableOf(year)} for values from (${first}) to (${first + 100})`);
}

/** Tables of years that a load made and did not come to attach. Loads run one at a time. */
async function dropUnattached(outside: Knex): Promise<void> {
  const left = await rowsOf<{ name: string }>(
    outside,
    `select relname as name from pg_class where relkind = 'r' and not relispartition and relname ~ '^line_e[0-9]+_[0-9]+$'
     and relnamespace = current_schema()::regnamespace`,
  );
  for (const { name } of left) await outside.raw(`drop table ${name}`);
}

/** Waits for all, whatever becomes of each, and then fails with the first that failed. */
async function allDone(work: Promise<unknown>[]): Promise<void> {
  for (const done of await Promise.allSettled(work)) if (done.status === 'rejected') throw done.reason;
}

async function addSummaries(db: Db, load: number, writeOut: Stage['writeOut']): Promise<void> {
  const sums = 'count(*) as count, sum(case when side = 1 then amount else 0 end) as debit, sum(case when side = 1 then 0 else -amount end) as credit';
  const moment = 'period, day_period, status, kind';
  const add = async (table: string, keys: string, sql: string): Promise<void> =>
    void (await copyInto(db, `${table} (${keys}, debit, credit)`, await writeOut(table, sql)));
  const day = `entity, account, day, ${moment}`;
  await add('balance_day', `load, ${day}, count`, `select ${load}, ${day}, ${sums} from staged_line group by all order by entity, account, day`);
  const period = `entity, account, ${moment}`;
  await add('balance_period', `load, ${period}, count`, `select ${load}, ${period}, ${sums} from staged_line group by all order by entity, account, period`);
  const slots = (await rowsOf<{ slot: number }>(db, 'select slot from dimension order by slot')).map(({ slot }) => Number(slot));
  for (const slot of slots) {
    await add(
      'balance_member',
      `load, slot, entity, member, account, ${moment}, count`,
      `select ${load}, ${slot}, entity, d${slot}, account, ${moment}, ${sums} from staged_line group by all order by entity, d${slot}, account, period`,
    );
  }
  await add('load_total', 'load, entity, period, lines', `select ${load}, entity, period, ${sums} from staged_line group by all order by all`);
}
