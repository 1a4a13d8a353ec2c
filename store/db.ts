import { availableParallelism } from 'node:os';
import knex, { type Knex } from 'knex';
import pg from 'pg';
import { exact } from '@/core/money';
import { type Asking, whoAsks } from './asking';
import { FairShare, NoTurn } from './fairShare';
import { log } from './log';

// Dates stay text; whole numbers of the database become exact integers or an error, never a rounded number.
pg.types.setTypeParser(1082, (value) => value);
pg.types.setTypeParser(20, (value) => exact(Number(value)));

/** A question on a screen that takes longer than this is stopped and refused with a remedy. */
export const INTERACTIVE_TIMEOUT_MS = 5_000;
const PATIENT_TIMEOUT_MS = 120_000;
const POOL_SIZE = 12;
/** Heavy questions that are answered at once; each has a core's worth of work. */
const HEAVY_PLACES = Math.max(2, availableParallelism());
/** Of them, one person has so many at the most. */
const HEAVY_EACH = Math.max(1, HEAVY_PLACES - 1);
const HEAVY_WAIT_MS = 20_000;
/** What the planner calculates a question to cost, above which it waits for a place among the heavy ones: about a quarter of a second. */
const HEAVY_COST = 60_000;
/** Questions slower than this are written down. */
const SLOW_MS = Number(process.env.JUST_THREAD_SLOW_MS ?? 1_000);

/** How long a question of a pool may take; absent: as long as it takes. */
const limits = new WeakMap<Knex, number>();
export const limitOf = (db: Db): number | null => limits.get(db as Knex) ?? null;

/** How the questions of a pool are shared out among those who ask. */
interface Lane {
  /** Where its heavy questions are asked; the pool itself if all of its questions count as heavy. */
  heavy: Knex;
  share: FairShare;
  /** Among how many questions at once it is found out which are heavy; null: all are. Planning one can take a core as well. */
  weighing: FairShare | null;
}
const lanes = new WeakMap<Knex, Lane>();

function pool(url: string, name: string, max: number, timeoutMs: number | null): Knex {
  const db = knex({
    client: 'pg',
    connection: {
      connectionString: url,
      application_name: name,
      ...(timeoutMs === null ? {} : { statement_timeout: timeoutMs }),
      // The server looks whether we are still there, and stops what nobody waits for.
      options: '-c client_connection_check_interval=1s',
    },
    pool: { min: 0, max },
  });
  if (timeoutMs !== null) limits.set(db, timeoutMs);
  return db;
}

/** A pool of connections for interactive questions, with a small one beside it for those that are heavy. */
export function connect(url: string): Knex {
  const light = pool(url, 'just-thread', POOL_SIZE, INTERACTIVE_TIMEOUT_MS);
  const heavy = pool(url, 'just-thread heavy', HEAVY_PLACES, INTERACTIVE_TIMEOUT_MS);
  lanes.set(light, {
    heavy,
    share: new FairShare(HEAVY_PLACES, HEAVY_EACH, HEAVY_WAIT_MS),
    weighing: new FairShare(HEAVY_PLACES + 2, 2, HEAVY_WAIT_MS),
  });
  return light;
}

/** A pool of few connections for questions that somebody chose to wait for. */
export function connectPatiently(url: string): Knex {
  const db = pool(url, 'just-thread patient', 2, PATIENT_TIMEOUT_MS);
  lanes.set(db, { heavy: db, share: new FairShare(2, 1, PATIENT_TIMEOUT_MS), weighing: null });
  return db;
}

/** A pool for loads, checks and other long work: no statement timeout. A load takes up to four connections. */
export function connectForWork(url: string): Knex {
  const db = pool(url, 'just-thread work', 6, null);
  lanes.set(db, { heavy: db, share: new FairShare(4, 2, PATIENT_TIMEOUT_MS), weighing: null });
  return db;
}

/** Closes a pool with what belongs to it. */
export async function disconnect(db: Knex): Promise<void> {
  const lane = lanes.get(db);
  await Promise.all([db.destroy(), lane && lane.heavy !== db ? lane.heavy.destroy() : undefined]);
}

/**
 * A transaction of which questions are asked one after the other, for use cases that ask several at once: it has one
 * connection, which takes one at a time.
 */
export function oneAfterTheOther(trx: Knex.Transaction): Knex {
  let last: Promise<unknown> = Promise.resolve();
  return new Proxy(trx, {
    get: (of, name) =>
      name === 'raw'
        ? (sql: string, bindings: Knex.RawBinding[]) => {
            const next = last.then(() => of.raw(sql, bindings));
            last = next.catch(() => {});
            return next;
          }
        : Reflect.get(of, name),
  }) as unknown as Knex;
}

export type Db = Knex | Knex.Transaction;

/**
 * Rows of a raw question. The caller names the shape that its SQL gives. A question that somebody waits for is stopped in
 * the database when they go; a heavy one waits for its turn.
 * @param why of this table, told for whoever tunes
 */
export async function rowsOf<Row>(
  db: Db,
  sql: string,
  bindings: readonly unknown[] = [],
  why?: string,
): Promise<Row[]> {
  const asking = whoAsks();
  const lane = lanes.get(db);
  const from = performance.now();
  try {
    if (!asking || !lane) return (await raw<Row>(db, sql, bindings)).rows;
    const heavy =
      lane.weighing === null ||
      (readsLines(sql) && (await costOf(db, lane.weighing, sql, bindings, asking)) > HEAVY_COST);
    if (!heavy) return await cancellable<Row>(db, sql, bindings, asking);
    return await lane.share.run(placeOf(asking), asking.signal, () =>
      cancellable<Row>(lane.heavy, sql, bindings, asking),
    );
  } finally {
    tellOf({ of: tablesIn(sql), why, sql, from });
  }
}

/** Tells what a question took to whoever asked to be told, and writes it down if it was slow. @param from when it began */
export function tellOf({
  of,
  why,
  sql,
  from,
}: {
  of: string;
  why: string | undefined;
  sql: string;
  from: number;
}): void {
  const asking = whoAsks();
  const ms = Math.round(performance.now() - from);
  asking?.explained?.push({ of, ms, ...(why === undefined ? {} : { why }) });
  if (ms > SLOW_MS)
    log().warn(
      { request: asking?.id, person: asking?.person, ms, sql: sql.replace(/\s+/g, ' ').slice(0, 400) },
      'slow question',
    );
}

const raw = <Row>(db: Db, sql: string, bindings: readonly unknown[]): Promise<{ rows: Row[] }> =>
  db.raw(sql, bindings as Knex.RawBinding[]) as unknown as Promise<{ rows: Row[] }>;

/** Sums answer at once; only what reads lines can be heavy. */
const readsLines = (sql: string): boolean => /\bline\b/.test(sql);

/** The tables that a question names, told for whoever tunes. */
const tablesIn = (sql: string): string =>
  [...new Set([...sql.matchAll(/\b(?:from|join)\s+([a-z_]{4,})\b/g)].map(([, table]) => table as string))].join(' ');

/** Whose share it counts against. */
const placeOf = (asking: Asking): string => asking.person ?? asking.id;

async function costOf(
  db: Db,
  weighing: FairShare,
  sql: string,
  bindings: readonly unknown[],
  asking: Asking,
): Promise<number> {
  const explain = () =>
    cancellable<{ 'QUERY PLAN': [{ Plan: { 'Total Cost': number } }] }>(
      db,
      `explain (format json) ${sql}`,
      bindings,
      asking,
    );
  const [row] = await weighing.run(placeOf(asking), asking.signal, explain);
  return row?.['QUERY PLAN'][0].Plan['Total Cost'] ?? 0;
}

interface Connection {
  processID: number;
}

/** Asks on a connection of its own, and has the database stop when nobody waits any more. */
async function cancellable<Row>(db: Db, sql: string, bindings: readonly unknown[], { signal }: Asking): Promise<Row[]> {
  if (signal.aborted) throw new NoTurn('gone');
  const client = (db as Knex).client as {
    acquireConnection(): Promise<Connection>;
    releaseConnection(c: Connection): Promise<void>;
    config: Knex.Config;
  };
  const connection = await client.acquireConnection();
  let stopping: Promise<void> | null = null;
  const stop = (): void => {
    stopping = cancelBackend(client.config.connection as pg.ClientConfig, connection.processID);
  };
  try {
    if (signal.aborted) throw new NoTurn('gone');
    signal.addEventListener('abort', stop, { once: true });
    const asked = db.raw(sql, bindings as Knex.RawBinding[]).connection(connection as never) as unknown as Promise<{
      rows: Row[];
    }>;
    return (await asked).rows;
  } catch (error) {
    throw signal.aborted ? new NoTurn('gone') : error;
  } finally {
    signal.removeEventListener('abort', stop);
    // Else the next question on this connection might be the one that is stopped.
    await stopping;
    await client.releaseConnection(connection);
  }
}

async function cancelBackend(config: pg.ClientConfig, processID: number): Promise<void> {
  const client = new pg.Client({ ...config, statement_timeout: INTERACTIVE_TIMEOUT_MS });
  try {
    await client.connect();
    await client.query('select pg_cancel_backend($1)', [processID]);
  } catch (error) {
    log().warn({ error: (error as Error).message }, 'a question that nobody waits for could not be stopped');
  } finally {
    await client.end().catch(() => {});
  }
}

/** The number that stands for "not replaced" in replaced_by. */
export const NEVER = 2147483647;

/** Asks the database for nothing. @throws what a connection that is not there throws */
export const isThere = (db: Db): Promise<unknown> => rowsOf(db, 'select 1');

/** Does something that sees one state of everything, whatever is changed meanwhile. */
export const inOneState = <T>(db: Knex, work: (trx: Knex.Transaction) => Promise<T>): Promise<T> =>
  db.transaction(work, { isolationLevel: 'repeatable read' });
