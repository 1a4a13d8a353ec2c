import { mkdir, mkdtemp, rename, rm, stat } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import type { DuckDBConnection } from '@duckdb/node-api';
import type { Knex } from 'knex';
import { QUANTITY_DIGITS } from '@/core/lineStats';
import { NUMBER_SQL } from '../clauseSql';
import { copiedOut, copyOut } from '../copyOut';
import { rowsOf } from '../db';
import { duckRows, FRUGAL, openDuck } from '../duck';
import {
  CODES,
  ENTRY_TEXTS,
  entryCopySql,
  entryTypes,
  fileName,
  finishedLines,
  lineCopySql,
  lineTypes,
  NARROW,
  NARROW_BELOW,
  numberedEntries,
  numberedLines,
  OTHER,
  placedTables,
  SEVERAL,
  SHARED,
  SUMMED,
  sharedOut,
  soughtTables,
  sumTable,
  TEXTS,
  textTable,
} from './shape';

const THREADS = Math.min(4, Math.max(2, availableParallelism()));
/** What the making of a part takes in memory; what is more goes to a folder of its own. */
const MEMORY_MB = Number(process.env.JUST_THREAD_COPY_MB ?? 800);

/** Lines of books to be copied: those of loads after one, up to another. */
interface Wanted {
  books: number;
  after: number;
  to: number;
}

/** Thrown for a value that a copy cannot hold exactly: then there is none, and the database answers. */
export class NotExact extends Error {}

/**
 * Writes a part: lines are read out of the database as text, numbered, put in order and packed by the engine, and the file
 * is moved into its place when it is whole.
 * @param trx a transaction that sees one state of the books
 * @param tell told how far it is, from 0 to 1
 * @throws NotExact
 */
export async function makePart(
  trx: Knex.Transaction,
  folder: string,
  { books, after, to }: Wanted,
  tell: (share: number) => Promise<void>,
): Promise<{ file: string; lines: number; bytes: number }> {
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const work = await mkdtemp(join(folder, 'making-'));
  const path = join(work, 'part');
  const of = (alias: string): string =>
    `${alias}.entity = ${Number(books)} and ${alias}.load > ${Number(after)} and ${alias}.load <= ${Number(to)}`;
  try {
    const copies = { line: join(work, 'lines'), entry: join(work, 'entries') };
    const [inexact] = await rowsOf(trx, inexactSql(of('s')));
    if (inexact) throw new NotExact('a line has a number that is too large, or of too many decimals, for a copy');
    await copyOut(trx, lineCopySql(of('s')), copies.line);
    await tell(0.3);
    await copyOut(trx, entryCopySql(of('e')), copies.entry);
    const codes = new Map<string, string>();
    for (const [column, table] of CODES) {
      const file = join(work, table);
      await copyOut(trx, `select id, code from ${table}`, file);
      codes.set(column, file);
    }
    await tell(0.4);
    const instance = await openDuck(path, {
      threads: String(THREADS),
      memory_limit: `${MEMORY_MB}MB`,
      temp_directory: join(work, 'spilled'),
      ...FRUGAL,
    });
    const connection = await instance.connect();
    let lines: number;
    try {
      lines = await number(connection, copies, codes, tell);
    } finally {
      // Whoever answers requests may open it as soon as it is registered, which a lock of this process would hinder.
      connection.closeSync();
      instance.closeSync();
    }
    const file = fileName(`books-${books}-loads-${after + 1}-to-${to}-${Date.now().toString(36)}`);
    const { size } = await stat(path);
    await rename(path, join(folder, file));
    return { file, lines, bytes: size };
  } finally {
    await rm(work, { recursive: true, force: true });
  }
}

async function number(
  connection: DuckDBConnection,
  copies: { line: string; entry: string },
  codes: ReadonlyMap<string, string>,
  tell: (share: number) => Promise<void>,
): Promise<number> {
  const run = (sql: string): Promise<unknown> => connection.run(sql);
  await run('set preserve_insertion_order = false');
  await run(`create temporary table raw_line as select * from ${copiedOut(copies.line, lineTypes())}`);
  await run(`create temporary table raw_entry as select * from ${copiedOut(copies.entry, entryTypes())}`);
  await run(`create temporary table raw_other as ${OTHER_SIDES}`);
  await shareOut(connection);
  await tell(0.5);
  const inEntry = new Set(ENTRY_TEXTS.map(([name]) => name));
  for (const name of TEXTS) {
    const file = codes.get(name);
    const values =
      file === undefined
        ? `select distinct ${name} as body from ${inEntry.has(name) ? 'raw_entry' : 'raw_line'} where ${name} is not null`
        : `select id, code as body from ${copiedOut(file, { id: 'integer', code: 'varchar' })}
           where id in (select ${name === 'account_code' ? 'account' : `${name}_id`} from raw_line)`;
    await run(`create temporary table found_${name} as ${values}`);
  }
  // Texts are packed so that they are quick to look through.
  const packed = 'varchar using compression zstd';
  for (const name of TEXTS) {
    const table = textTable(name);
    await run(`create table ${table} (id integer, body ${packed}, folded ${packed})`);
    await run(
      `insert into ${table} select (row_number() over (order by body) - 1)::integer, body, lower(body)
       from (select distinct body from found_${name}) order by body`,
    );
    if (codes.has(name))
      await run(
        `create temporary table map_${name} as select f.id, t.id as text from found_${name} f join ${table} t on t.body = f.body`,
      );
    await run(`drop table found_${name}`);
  }
  for (const table of soughtTables()) await run(table);
  const narrow = await narrowColumns(connection);
  await run(`create temporary table numbered_entry as ${numberedEntries()}`);
  await run(`create temporary table numbered_line as ${numberedLines(narrow)}`);
  for (const table of ['raw_entry', 'raw_other', 'raw_line']) await run(`drop table ${table}`);
  await tell(0.8);
  await run('set preserve_insertion_order = true');
  const shape = await duckRows<{ column_name: string; column_type: string }>(connection, `describe ${finishedLines()}`);
  const columns = shape.map(({ column_name: name, column_type: type }) => `${name} ${name === 'said' ? packed : type}`);
  await run(`create table line (${columns.join(', ')})`);
  const slices = await slicesOf(connection);
  for (const [i, [from, to]] of slices.entries()) {
    await run(
      `insert into line ${finishedLines()} where l.place between ${from} and ${to} order by account, day, entry_number, entry, line_no`,
    );
    await tell(0.8 + (0.15 * (i + 1)) / slices.length);
  }
  for (const placed of placedTables()) await run(placed);
  for (const name of SUMMED) await sumUp(connection, name);
  await sumUpOthers(connection);
  await tell(0.98);
  await run('checkpoint');
  const [row] = await duckRows<{ lines: number }>(connection, 'select count(*) as lines from line');
  return row?.lines ?? 0;
}

/** Decimals that all lines have below what fits into a machine's word. */
async function narrowColumns(connection: DuckDBConnection): Promise<Set<string>> {
  const names = Object.keys(NARROW);
  const [row] = await duckRows<Record<string, boolean>>(
    connection,
    `select ${names.map((name) => `coalesce(max(abs(${name})), 0) < ${NARROW_BELOW} as ${name}`).join(', ')} from raw_line`,
  );
  return new Set(names.filter((name) => row?.[name]));
}

/** Sums by something are kept where there are so many lines to each. */
const LINES_TO_A_SUM = 3;

/** Adds lines up by account, period and what they have in a column, where that makes them much fewer. */
async function sumUp(connection: DuckDBConnection, column: string): Promise<void> {
  const keys = `account, period, day_period, status, kind, load, replaced_by, ${column}`;
  // What is dropped again would leave a hole in the file.
  await connection.run(
    `create temporary table sums as
     select ${keys}, sum(debit)::bigint as debit, sum(credit)::bigint as credit, sum(amount)::bigint as amount, count(*) as count
     from line group by all`,
  );
  await keepSums(connection, column, 'account, period');
}

/** So many pairs of a line and one on its other side are looked at at once. */
const SLICE_PAIRS = 4_000_000;

/** What each account on the other side has of lines that have several there, entry by entry. */
async function shareOut(connection: DuckDBConnection): Promise<void> {
  await connection.run(
    `create table ${SHARED} (entry integer, line_no integer, account integer, exact boolean, amount bigint)`,
  );
  await connection.run(
    `create temporary table to_share as select entry, of_debits = ${SEVERAL} as debits, of_credits = ${SEVERAL} as credits,
       (sum(pairs) over (order by entry)) // ${SLICE_PAIRS} as slice
     from raw_other where of_debits = ${SEVERAL} or of_credits = ${SEVERAL}`,
  );
  const slices = await duckRows<{ slice: number }>(
    connection,
    'select distinct slice::integer as slice from to_share order by 1',
  );
  for (const { slice } of slices) {
    await connection.run(
      `create temporary table whole as select l.entry, l.line_no, l.account, l.amount, case when l.amount > 0 then t.debits else t.credits end as hard
       from raw_line l join to_share t on t.entry = l.entry where t.slice = ${slice} and l.amount <> 0`,
    );
    await connection.run(
      `insert into ${SHARED} ${sharedOut('(select entry, line_no, amount from whole where hard)', 'whole')} order by entry, line_no`,
    );
    await connection.run('drop table whole');
  }
  await connection.run('drop table to_share');
}

/** Adds up what is on the other side of lines, by their account, where that makes it much fewer. */
async function sumUpOthers(connection: DuckDBConnection): Promise<void> {
  const keys = 'l.account, l.period, l.day_period, l.status, l.kind, l.load, l.replaced_by';
  await connection.run(
    `create temporary table sums as select * replace (sum(amount)::bigint as amount) from (
       select ${keys}, abs(l.${OTHER}) as opposite, l.${OTHER} > 0 as exact, sum(-l.amount)::bigint as amount from line l
       where l.${OTHER} not in (0, ${SEVERAL}) group by all
       union all
       select ${keys}, x.account as opposite, x.exact, sum(x.amount)::bigint as amount from line l join ${SHARED} x on x.entry = l.entry and x.line_no = l.line_no
       where l.${OTHER} = ${SEVERAL} group by all
     ) s group by all`,
  );
  await keepSums(connection, OTHER, 'account, period');
}

/** Keeps what was added up where that makes lines much fewer. */
async function keepSums(connection: DuckDBConnection, column: string, order: string): Promise<void> {
  const [row] = await duckRows<{ fewer: boolean }>(
    connection,
    `select (select count(*) from sums) * ${LINES_TO_A_SUM} <= (select count(*) from line) as fewer`,
  );
  if (row?.fewer) await connection.run(`create table ${sumTable(column)} as select * from sums order by ${order}`);
  await connection.run('drop table sums');
}

/** So many lines are put in order at once: more would not fit into the memory that there is. */
const SLICE_LINES = 1_000_000;

/** Slices of the lines, one after the other in the order of a ledger, by account and month. */
async function slicesOf(connection: DuckDBConnection): Promise<[from: number, to: number][]> {
  const places = await duckRows<{ place: number; lines: number }>(
    connection,
    'select place, count(*) as lines from numbered_line group by place order by place',
  );
  const slices: [number, number][] = [];
  let lines = SLICE_LINES;
  for (const row of places) {
    const last = slices.at(-1);
    if (!last || lines + row.lines > SLICE_LINES) {
      slices.push([row.place, row.place]);
      lines = row.lines;
    } else {
      last[1] = row.place;
      lines += row.lines;
    }
  }
  return slices;
}

/**
 * The account that is on the other side of the debits, and of the credits, of an entry: one less than nothing where the
 * entry has several lines on both sides; 0 where there is none; SEVERAL where there are several; null where the lines of
 * the entry are not all of one layer, so that it is another entry as of each load. Beside them how many pairs of a line
 * and one on its other side there are.
 */
const OTHER_SIDES = `
  select entry, debits * credits as pairs, case when not uniform then null when credits = 0 then 0 when least_credit <> most_credit then ${SEVERAL}
      when debits > 1 and credits > 1 then -least_credit else least_credit end as of_debits,
    case when not uniform then null when debits = 0 then 0 when least_debit <> most_debit then ${SEVERAL}
      when debits > 1 and credits > 1 then -least_debit else least_debit end as of_credits
  from (
    select entry, min(load) = max(load) and min(replaced_by) = max(replaced_by) as uniform,
      count(*) filter (where amount > 0) as debits, count(*) filter (where amount < 0) as credits,
      min(account) filter (where amount > 0) as least_debit, max(account) filter (where amount > 0) as most_debit,
      min(account) filter (where amount < 0) as least_credit, max(account) filter (where amount < 0) as most_credit
    from raw_line group by entry
  ) e`;

/** A line with a number that a part would not hold exactly. */
const inexactSql = (where: string): string =>
  `select 1 from line s where ${where} and (scale(s.quantity) > ${QUANTITY_DIGITS} or abs(s.quantity) >= 1e24
     or scale(${NUMBER_SQL.taxAmount}) > 6 or ${NUMBER_SQL.taxAmount} >= 1e24 or ${NUMBER_SQL.unitPrice} >= 1e18) limit 1`;
