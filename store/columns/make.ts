import { createWriteStream } from 'node:fs';
import { mkdir, mkdtemp, rename, rm, stat } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { type DuckDBConnection, DuckDBInstance } from '@duckdb/node-api';
import type { Knex } from 'knex';
import type { PoolClient } from 'pg';
import { to as copyTo } from 'pg-copy-streams';
import { QUANTITY_DIGITS } from '@/core/lineStats';
import { NUMBER_SQL } from '../clauseSql';
import { rowsOf } from '../db';
import { CODES, ENTRY_TEXTS, entryCopySql, entryTypes, lineCopySql, lineTypes, numberedSql, TEXTS } from './shape';

const THREADS = Math.min(4, Math.max(2, availableParallelism()));
/** What the making of a part takes in memory; what is more goes to a folder of its own. */
const MEMORY_MB = 900;

/** Lines of books to be copied: those of loads after one, up to another. */
export interface Wanted {
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
    const instance = await DuckDBInstance.create(path, {
      threads: String(THREADS),
      memory_limit: `${MEMORY_MB}MB`,
      temp_directory: join(work, 'spilled'),
      autoinstall_known_extensions: 'false',
      autoload_known_extensions: 'false',
    });
    let lines: number;
    try {
      lines = await number(await instance.connect(), copies, codes, tell);
    } finally {
      instance.closeSync();
    }
    const file = `books-${books}-loads-${after + 1}-to-${to}-${Date.now().toString(36)}`;
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
  await run(`create temporary table raw_line as select * from ${csv(copies.line, lineTypes())}`);
  await run(`create temporary table raw_entry as select * from ${csv(copies.entry, entryTypes())}`);
  await run(`create temporary table raw_other as ${OTHER}`);
  await tell(0.5);
  const inEntry = new Set(ENTRY_TEXTS.map(([name]) => name));
  for (const name of TEXTS) {
    const file = codes.get(name);
    const values =
      file === undefined
        ? `select distinct ${name} as body from ${inEntry.has(name) ? 'raw_entry' : 'raw_line'} where ${name} is not null`
        : `select id, code as body from ${csv(file, { id: 'integer', code: 'varchar' })}
           where id in (select ${name === 'account_code' ? 'account' : `${name}_id`} from raw_line)`;
    await run(`create temporary table found_${name} as ${values}`);
  }
  await run(
    `create table text as select (row_number() over (order by body) - 1)::integer as id, body, lower(body) as folded
     from (${TEXTS.map((name) => `select body from found_${name}`).join(' union ')}) order by body`,
  );
  for (const name of TEXTS)
    await run(
      codes.has(name)
        ? `create temporary table map_${name} as select f.id, t.id as text from found_${name} f join text t on t.body = f.body`
        : `create temporary table map_${name} as select t.id, t.body from found_${name} f join text t on t.body = f.body`,
    );
  // A word is looked for in what a line and its entry say together, once for all lines that say the same.
  await run(
    `create table said as select (row_number() over () - 1)::integer as id, * from (
       select distinct l.description, e.entry_description from raw_line l left join raw_entry e on e.id = l.entry)`,
  );
  await run(
    `create table words as select id, lower(concat_ws(chr(1), description, entry_description)) as folded from said order by id`,
  );
  await tell(0.6);
  await run(`create table line as ${numberedSql()} order by account, day, entry_number, entry, line_no`);
  await tell(0.95);
  // How many different texts a column has tells which splits are read page by page.
  await run(
    `create table different as ${TEXTS.map((name) => `select '${name}' as name, count(*)::integer as texts from map_${name}`).join(' union all ')}`,
  );
  await run('drop table said');
  await run('checkpoint');
  const [row] = (await connection.runAndReadAll('select count(*) as lines from line')).getRowObjects();
  return Number(row?.lines);
}

/**
 * The one account that is on the other side of lines of an entry, by the side of those lines: less than nothing where the
 * entry has several lines on both sides; 0 where there is none; null where there are several, or where the lines of the
 * entry are not all of one layer.
 */
const OTHER = `
  with side as (
    select entry, amount > 0 as debit, count(*) as lines, min(account) as least, max(account) as most
    from raw_line where amount <> 0 group by all
  ), whole as (
    select entry, min(load) = max(load) and min(replaced_by) = max(replaced_by) as uniform from raw_line group by entry
  )
  select own.entry, case when own.debit then 1 else -1 end as side,
    case when not w.uniform then null when o.entry is null then 0 when o.least <> o.most then null
         when own.lines > 1 and o.lines > 1 then -o.least else o.least end as other
  from side own join whole w on w.entry = own.entry left join side o on o.entry = own.entry and o.debit <> own.debit`;

/** A copy as it was read out, as rows. An empty text stands in quotes, and nothing at all without them. */
const csv = (path: string, types: Readonly<Record<string, string>>): string =>
  `read_csv('${path.replaceAll("'", "''")}', auto_detect = false, header = false, delim = ',', quote = '"', escape = '"', nullstr = '',
     allow_quoted_nulls = false, columns = {${Object.entries(types)
       .map(([name, type]) => `${name}: '${type}'`)
       .join(', ')}})`;

async function copyOut(trx: Knex.Transaction, sql: string, path: string): Promise<void> {
  const client = (trx as unknown as { client: { acquireConnection(): Promise<PoolClient> } }).client;
  const connection = await client.acquireConnection();
  await pipeline(
    connection.query(copyTo(`copy (${sql}) to stdout (format csv)`)),
    createWriteStream(path, { mode: 0o600 }),
  );
}

/** A line with a number that a part would not hold exactly. */
const inexactSql = (where: string): string =>
  `select 1 from line s where ${where} and (scale(s.quantity) > ${QUANTITY_DIGITS} or abs(s.quantity) >= 1e24
     or scale(${NUMBER_SQL.taxAmount}) > 6 or ${NUMBER_SQL.taxAmount} >= 1e24 or ${NUMBER_SQL.unitPrice} >= 1e18) limit 1`;
