import type { Knex } from 'knex';
import { type Db, NEVER, rowsOf } from './db';

/** Layers of what comes beside lines. A newer load replaces rows and keeps them, so that earlier answers can be had again. */
export type DeliveryTable =
  | 'budget'
  | 'commitment'
  | 'document'
  | 'document_link'
  | 'document_line'
  | 'attachment'
  | 'rate'
  | 'tax_code'
  | 'scheme_caption';

const BATCH_ROWS = 500;

/** Gathers rows of one table and inserts them in batches. */
export function rowWriter<Row extends object>(db: Db, table: DeliveryTable) {
  let waiting: Row[] = [];
  const flush = async (): Promise<void> => {
    if (waiting.length > 0) await db(table).insert(waiting);
    waiting = [];
  };
  return {
    async add(row: Row): Promise<void> {
      waiting.push(row);
      if (waiting.length >= BATCH_ROWS) await flush();
    },
    flush,
  };
}

/** Columns of eight dimension slots. */
export const slotColumns = (dims: readonly number[]): Record<string, number> =>
  Object.fromEntries(dims.map((id, i) => [`d${i + 1}`, id]));

/** Rows of earlier loads that stand for the same thing as rows of this load are replaced by it. @returns how many */
export async function replaceSame(
  db: Db,
  table: DeliveryTable,
  load: number,
  same: readonly string[],
): Promise<number> {
  const result = (await db.raw(
    `update ${table} t set replaced_by = ? where t.load <> ? and t.replaced_by = ${NEVER}
       and (${same.map((c) => `t.${c}`).join(', ')}) in (select ${same.join(', ')} from ${table} where load = ?)`,
    [load, load, load],
  )) as { rowCount: number };
  return result.rowCount;
}

export interface CheckRow {
  what: 'opening balance' | 'closing balance' | 'debits' | 'credits' | 'entries';
  entity: number;
  account: string | null;
  period: number | null;
  stated: number;
  found: number;
}

/** Keeps what a file stated against what came. */
export async function keepChecks(db: Db, load: number, checks: readonly CheckRow[]): Promise<void> {
  for (let at = 0; at < checks.length; at += BATCH_ROWS) {
    await db('load_check').insert(checks.slice(at, at + BATCH_ROWS).map((c, i) => ({ load, at: at + i, ...c })));
  }
}

export const checksOf = (db: Db, load: number): Promise<(CheckRow & { entity_code: string })[]> =>
  rowsOf(
    db,
    `select c.what, c.entity, e.code as entity_code, c.account, c.period, c.stated, c.found
     from load_check c join entity e on e.id = c.entity where c.load = ? order by (c.stated = c.found), c.at`,
    [load],
  );

/**
 * Balance of each account at the end of a period as of a load, from the summaries: permanent accounts over all time,
 * temporary ones since the start of the fiscal year.
 */
export const balancesAt = (
  db: Db,
  entity: number,
  period: number,
  load: number,
): Promise<{ account: number; balance: number }[]> =>
  rowsOf(
    db,
    `select b.account, sum(b.debit - b.credit)::bigint as balance from balance_period b join account a on a.id = b.account
     where b.entity = ? and b.period <= ? and b.load <= ? and (not a.temporary or b.period > ?) group by b.account`,
    [entity, period, load, Math.floor(period / 100) * 100],
  );

/** Balance of each account before a fiscal year: what a file's opening balances must meet. */
export const balancesBefore = (
  db: Db,
  entity: number,
  year: number,
  load: number,
): Promise<{ account: number; balance: number }[]> =>
  rowsOf(
    db,
    `select b.account, sum(b.debit - b.credit)::bigint as balance from balance_period b join account a on a.id = b.account
     where b.entity = ? and b.period < ? and b.load <= ? and not a.temporary group by b.account`,
    [entity, year, load],
  );

export interface HoldingRow {
  entity: number;
  number: string;
  name: string;
  kind: 'cash' | 'bank';
  takes: 'receipts' | 'payments' | 'both';
  currency: string;
  account: string;
  bank_account: string | null;
}

export async function upsertHoldings(db: Db, holdings: readonly HoldingRow[]): Promise<void> {
  for (let at = 0; at < holdings.length; at += BATCH_ROWS) {
    await db('holding')
      .insert(holdings.slice(at, at + BATCH_ROWS))
      .onConflict(['entity', 'number'])
      .merge();
  }
}

export const holdingsOf = (db: Db, entities: readonly number[]): Promise<HoldingRow[]> =>
  db('holding').whereIn('entity', entities).orderBy(['entity', 'kind', 'number']) as unknown as Promise<HoldingRow[]>;

export const deleteHolding = (db: Db, entity: number, number: string): Promise<number> =>
  db('holding').where({ entity, number }).delete();

/** Periods that hold lines, with how many, as of the newest load. */
export const periodsWithLines = (
  db: Db,
  entity: number,
): Promise<{ period: number; count: number; posted: number; debit: number }[]> =>
  rowsOf(
    db,
    `select period, sum(count)::integer as count, coalesce(sum(count) filter (where status = 1), 0)::integer as posted, sum(debit)::bigint as debit
     from balance_period where entity = ? group by period having sum(count) <> 0 order by period`,
    [entity],
  );

export const replaceCalendar = (db: Db, entity: number, calendar: object): Promise<unknown> =>
  db('entity')
    .where({ id: entity })
    .update({ calendar: JSON.stringify(calendar) as unknown as Knex.Value });

/** Result of all fiscal years before that of the period, debit positive: what derived retained earnings take up. */
export async function earlierResult(db: Db, entity: number, period: number, load: number): Promise<number> {
  const [row] = await rowsOf<{ sum: number }>(
    db,
    `select coalesce(sum(b.debit - b.credit), 0)::bigint as sum from balance_period b join account a on a.id = b.account
     where b.entity = ? and b.period < ? and b.load <= ? and a.temporary`,
    [entity, Math.floor(period / 100) * 100, load],
  );
  return row?.sum ?? 0;
}
