import { createReadStream } from 'node:fs';
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import {
  BIGINT,
  DATE,
  type DuckDBAppender,
  type DuckDBConnection,
  DuckDBDataChunk,
  DuckDBDateValue,
  type DuckDBInstance,
  type DuckDBType,
  type DuckDBValue,
  INTEGER,
  SMALLINT,
  VARCHAR,
} from '@duckdb/node-api';
import type { PoolClient } from 'pg';
import { from as copyFrom } from 'pg-copy-streams';
import { type Db, NEVER, rowsOf } from './db';
import { duckRows, FRUGAL, openDuck, quoted } from './duck';
import type { StagedLine } from './staging';

/** Each thread sorts and joins in memory of its own; what is more goes to the stage's folder. */
const THREADS = Math.min(4, Math.max(2, availableParallelism()));
const LEAST_MEGABYTES = 128 * THREADS;
/** Entries of many lines are looked up by their number while lines are sorted, which cannot all go to the folder. */
const BYTES_A_LINE = 28;
const BATCH_ROWS = 2_048;
/** Line numbers that fit into the bits of a whole number. */
const BITS = 62;

/** The columns of staged lines, with their types and where a line read row by row has them. */
const COLUMNS: [name: string, type: DuckDBType, value: (l: StagedLine) => DuckDBValue][] = [
  ['row_no', INTEGER, (l) => l.row],
  ['entity', SMALLINT, (l) => l.entity],
  ['period', SMALLINT, (l) => l.period],
  ['day_period', SMALLINT, (l) => l.dayPeriod],
  ['status', SMALLINT, (l) => l.status],
  ['kind', SMALLINT, (l) => l.kind],
  ['side', SMALLINT, (l) => l.side],
  ['journal', SMALLINT, (l) => l.journal],
  ['account', INTEGER, (l) => l.account],
  ['line_no', INTEGER, (l) => l.line],
  ['day', DATE, (l) => day(l.day)],
  ['posting_date', DATE, (l) => day(l.postingDate)],
  ['counterparty', INTEGER, (l) => l.counterparty],
  ['posted_by', INTEGER, (l) => l.postedBy],
  ...Array.from({ length: 8 }, (_, i): (typeof COLUMNS)[number] => [`d${i + 1}`, INTEGER, (l) => l.dims[i] as number]),
  ['amount', BIGINT, (l) => BigInt(l.amount)],
  ['currency_amount', BIGINT, (l) => (l.currencyAmount === null ? null : BigInt(l.currencyAmount))],
  ['entry_number', VARCHAR, (l) => l.entryNumber],
  ['document', VARCHAR, (l) => l.document],
  ['currency', VARCHAR, (l) => l.currency],
  ['quantity', VARCHAR, (l) => l.quantity],
  ['unit', VARCHAR, (l) => l.unit],
  ['description', VARCHAR, (l) => l.description],
  ['entry_description', VARCHAR, (l) => l.entryDescription],
  ['entered_at', VARCHAR, (l) => l.enteredAt],
  ['approved_by', VARCHAR, (l) => l.approvedBy],
  ['reversal_of', VARCHAR, (l) => l.reversalOf],
  ['source', VARCHAR, (l) => l.source],
  ['extra', VARCHAR, (l) => l.extra],
];

const day = (text: string): DuckDBDateValue =>
  new DuckDBDateValue(Math.round(Date.parse(`${text}T00:00:00Z`) / 86_400_000));

/**
 * Where a load's lines are until they are laid: a database file of the load's own, outside the ledger, so that
 * reading, checking, sorting and adding up use every processor and nothing of it can be seen. It goes when it is closed.
 */
export class Stage {
  private gathered = false;

  private constructor(
    private readonly folder: string,
    private readonly instance: DuckDBInstance,
    private readonly connection: DuckDBConnection,
  ) {}

  /** @param root folder for stages; whatever a stopped server left in it is cleared away, since loads run one at a time */
  static async open(root: string): Promise<Stage> {
    await rm(root, { recursive: true, force: true });
    await mkdir(root, { recursive: true });
    const folder = await mkdtemp(join(root, 'load-'));
    const instance = await openDuck(join(folder, 'stage'), {
      threads: String(THREADS),
      memory_limit: `${LEAST_MEGABYTES}MB`,
      temp_directory: join(folder, 'spilled'),
      // Order is asked for where it matters; nothing is to survive this process.
      preserve_insertion_order: 'false',
      // The stage is read once or twice and thrown away: packing it well would take longer than it saves.
      force_compression: 'uncompressed',
      checkpoint_threshold: '1TB',
      ...FRUGAL,
    });
    const connection = await instance.connect();
    await connection.run(
      'set enable_progress_bar = true; set enable_progress_bar_print = false; set progress_bar_time = 0',
    );
    // How many rows a file has is not known before it is read: the joins are done as they are written, big side first.
    await connection.run("set disabled_optimizers = 'join_order,build_side_probe_side'");
    await connection.run(`create table staged_line (${COLUMNS.map(([name, type]) => `${name} ${type}`).join(', ')})`);
    return new Stage(folder, instance, connection);
  }

  async close(): Promise<void> {
    this.connection.closeSync();
    this.instance.closeSync();
    await rm(this.folder, { recursive: true, force: true });
  }

  /** Takes the memory that so many lines need to be laid. */
  async roomFor(lines: number): Promise<void> {
    await this.run(`set memory_limit = '${LEAST_MEGABYTES + Math.ceil((lines * BYTES_A_LINE) / 1_000_000)}MB'`);
  }

  /** Takes all staged lines away. */
  async empty(): Promise<void> {
    await this.run('delete from staged_line');
    this.gathered = false;
  }

  async run(sql: string): Promise<void> {
    await this.connection.run(sql);
  }

  /** The first period of the staged lines; null if there are none. */
  async firstPeriod(): Promise<number | null> {
    const [span] = await this.rows<{ first: number | null }>('select min(period) as first from staged_line');
    return span?.first ?? null;
  }

  /** What the staged lines of each account come to. */
  async sumsByAccount(): Promise<Map<number, number>> {
    const sums = await this.rows<{ account: number; sum: number }>(
      'select account, sum(amount) as sum from staged_line group by account',
    );
    return new Map(sums.map((s) => [s.account, s.sum]));
  }

  /** Rows of a question to the stage; whole numbers come as exact integers. The caller names their shape. */
  async rows<Row>(sql: string): Promise<Row[]> {
    return duckRows<Row>(this.connection, sql);
  }

  /** Makes a table of the stage's own of a few rows. */
  async table(name: string, columns: { readonly [name: string]: string }, rows: readonly object[]): Promise<void> {
    const typed = Object.entries(columns);
    await this.run(`create table ${name} (${typed.map(([column, type]) => `"${column}" ${type}`).join(', ')})`);
    if (rows.length === 0) return;
    const path = this.path(name);
    await writeFile(path, rows.map((row) => JSON.stringify(row)).join('\n'));
    const types = typed.map(([column, type]) => `"${column}": '${type}'`).join(', ');
    await this.run(
      `insert into ${name} by name select * from read_json(${quoted(path)}, format = 'newline_delimited', columns = {${types}})`,
    );
  }

  /** Runs a long statement and reports its progress a few times a second. An error thrown by onProgress cancels the statement. */
  async withProgress<T>(work: () => Promise<T>, onProgress: (share: number) => void): Promise<T> {
    let thrown: unknown;
    const watch = setInterval(() => {
      try {
        onProgress(Math.min(1, Math.max(0, this.connection.progress.percentage / 100)));
      } catch (error) {
        thrown = error;
        this.connection.interrupt();
      }
    }, 100);
    try {
      return await work();
    } catch (error) {
      throw thrown ?? error;
    } finally {
      clearInterval(watch);
    }
  }

  /** A file of the stage's own folder. */
  path(name: string): string {
    return join(this.folder, name);
  }

  /** Takes lines one by one. */
  async writer(): Promise<{ write(line: StagedLine): void; end(): void }> {
    this.gathered = false;
    const appender: DuckDBAppender = await this.connection.createAppender('staged_line');
    let batch: DuckDBValue[][] = COLUMNS.map(() => []);
    const flush = (): void => {
      const chunk = DuckDBDataChunk.create(COLUMNS.map(([, type]) => type));
      chunk.setColumns(batch);
      appender.appendDataChunk(chunk);
      batch = COLUMNS.map(() => []);
    };
    return {
      write(line) {
        for (let i = 0; i < COLUMNS.length; i++)
          (batch[i] as DuckDBValue[]).push((COLUMNS[i] as (typeof COLUMNS)[number])[2](line));
        if ((batch[0] as DuckDBValue[]).length === BATCH_ROWS) flush();
      },
      end() {
        if ((batch[0] as DuckDBValue[]).length > 0) flush();
        appender.closeSync();
      },
    };
  }

  /**
   * Gathers the entries of all staged lines, with what they come to and whether every line has a number of its own.
   * @returns how many there are
   */
  async gatherEntries(): Promise<number> {
    if (!this.gathered) {
      // In the order in which they are numbered. Lines of few are told apart by a bit for each, which takes much less than a list of them.
      await this.run('set preserve_insertion_order = true');
      await this.run(
        `create or replace table gathered_entry as
         select entity, entry_number, min(day) as day, min(journal) as journal, min(entry_description) as description, min(entered_at) as entered_at,
           min(approved_by) as approved_by, min(reversal_of) as reversal_of, min(source) as source, min(period) as first_period,
           max(period) as last_period, sum(amount) as off, count(*) as lines, max(line_no) as last_line,
           bit_count(bit_or(case when line_no between 0 and ${BITS} then 1::bigint << line_no::bigint else 0 end)) as numbers
         from staged_line group by entity, entry_number order by entity, day, entry_number`,
      );
      await this.run('set preserve_insertion_order = false');
      this.gathered = true;
    }
    const [counted] = await this.rows<{ entries: number }>('select count(*) as entries from gathered_entry');
    return counted?.entries ?? 0;
  }

  /** Whether some entry does not balance, or has two lines of one number. */
  async hasOddEntries(): Promise<boolean> {
    await this.gatherEntries();
    const odd = await this.rows(
      `select 1 from gathered_entry where off <> 0 or (last_line <= ${BITS} and numbers <> lines)
       union all
       select 1 from staged_line s join gathered_entry g on g.entity = s.entity and g.entry_number = s.entry_number and g.last_line > ${BITS}
       group by s.entity, s.entry_number having count(*) <> count(distinct s.line_no)
       limit 1`,
    );
    return odd.length > 0;
  }

  /** Writes the rows of a question to a file, ready for `copyInto`; texts of a file go through `asText`. @returns its path */
  async writeOut(name: string, sql: string): Promise<string> {
    const path = this.path(name);
    await this.run(
      `copy (${sql}) to '${path}' (format csv, header false, delimiter '\t', quote '', escape '', nullstr '\\N')`,
    );
    return path;
  }
}

/** What would be taken for an end of a cell or of a row, or for a sign of its own, by PostgreSQL's text format. */
const SIGNS: [sign: string, written: string][] = [
  ['chr(92)', 'chr(92) || chr(92)'],
  ['chr(9)', `chr(92) || 't'`],
  ['chr(10)', `chr(92) || 'n'`],
  ['chr(13)', `chr(92) || 'r'`],
];

/** A text as it is in the files between stage and database. */
export const asText = (column: string): string =>
  `case when ${SIGNS.map(([sign]) => `contains(${column}, ${sign})`).join(' or ')}
    then ${SIGNS.reduce((text, [sign, written]) => `replace(${text}, ${sign}, ${written})`, column)} else ${column} end`;

/**
 * Copies a file that a stage wrote into a table, on the transaction's own connection, and removes it.
 * @param target table with its columns
 * @param fresh whether the table was made in this transaction: its rows then need no later sweep
 * @returns rows copied
 */
export async function copyInto(db: Db, target: string, path: string, fresh = false): Promise<number> {
  const client = (db as unknown as { client: { acquireConnection(): Promise<PoolClient> } }).client;
  const connection = await client.acquireConnection();
  const copy = connection.query(
    copyFrom(`copy ${target} from stdin with (format text${fresh ? ', freeze true' : ''})`),
  );
  await pipeline(createReadStream(path, { highWaterMark: 1024 * 1024 }), copy);
  await rm(path);
  return copy.rowCount ?? 0;
}

/** Entries that the ledger holds already, by the rows that bring them again. */
export async function laidBefore(
  db: Db,
  stage: Stage,
  limit: number,
): Promise<{ entry_number: string; row: number; load: number }[]> {
  const [held] = await rowsOf<{ any: boolean }>(
    db,
    `select exists (select 1 from entry where replaced_by = ${NEVER}) as any`,
  );
  if (!held?.any) return [];
  await db.raw(
    'create temporary table staged_number (entity smallint, number text collate "C", row_no integer) on commit drop',
  );
  const out = await stage.writeOut(
    'numbers',
    `select entity, ${asText('entry_number')}, min(row_no) from staged_line group by entity, entry_number`,
  );
  await copyInto(db, 'staged_number', out);
  await db.raw('analyze staged_number');
  const again = await rowsOf<{ entry_number: string; row: number; load: number }>(
    db,
    `select s.number as entry_number, min(s.row_no) as row, min(e.load) as load
     from staged_number s join entry e on e.entity = s.entity and e.number = s.number and e.replaced_by = ${NEVER}
     group by s.number order by 2 limit ?`,
    [limit],
  );
  await db.raw('drop table staged_number');
  return again;
}
