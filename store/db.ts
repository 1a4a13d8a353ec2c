import knex, { type Knex } from 'knex';
import pg from 'pg';
import { exact } from '@/core/money';

// Dates stay text; whole numbers of the database become exact integers or an error, never a rounded number.
pg.types.setTypeParser(1082, (value) => value);
pg.types.setTypeParser(20, (value) => exact(Number(value)));

/** A question on a screen that takes longer than this is stopped and refused with a remedy. */
export const INTERACTIVE_TIMEOUT_MS = 5_000;
const PATIENT_TIMEOUT_MS = 120_000;
const POOL_SIZE = 12;

/** A pool of connections for interactive questions. */
export function connect(url: string): Knex {
  return knex({
    client: 'pg',
    connection: { connectionString: url, statement_timeout: INTERACTIVE_TIMEOUT_MS, application_name: 'just-thread' },
    pool: { min: 0, max: POOL_SIZE },
  });
}

/** A pool of few connections for questions that somebody chose to wait for. */
export const connectPatiently = (url: string): Knex =>
  knex({
    client: 'pg',
    connection: { connectionString: url, statement_timeout: PATIENT_TIMEOUT_MS, application_name: 'just-thread patient' },
    pool: { min: 0, max: 2 },
  });

/** A pool for loads, checks and other long work: no statement timeout. A load takes up to four connections. */
export function connectForWork(url: string): Knex {
  return knex({
    client: 'pg',
    connection: { connectionString: url, application_name: 'just-thread work' },
    pool: { min: 0, max: 6 },
  });
}

export type Db = Knex | Knex.Transaction;

/** Rows of a raw question. The caller names the shape that its SQL gives. */
export async function rowsOf<Row>(db: Db, sql: string, bindings: readonly unknown[] = []): Promise<Row[]> {
  const result = (await db.raw(sql, bindings as Knex.RawBinding[])) as { rows: Row[] };
  return result.rows;
}

/** The number that stands for "not replaced" in replaced_by. */
export const NEVER = 2147483647;
