import { createHash, type Hash } from 'node:crypto';
import type { Knex } from 'knex';
import type { PoolClient } from 'pg';
import { to as copyTo } from 'pg-copy-streams';
import { type Db, rowsOf } from './db';

/**
 * What a load laid down, held by a digest: SHA-256 (FIPS 180-4) over its rows in a fixed order, each as PostgreSQL's text
 * format writes it, with every column but the mark of a later load that replaced it. A row that was changed, added or
 * taken away by hand gives another digest. The number stands for the form: a wider one has the next.
 */
const DIMS = 'd1, d2, d3, d4, d5, d6, d7, d8';
const SEALED = {
  'line/1': {
    table: 'line',
    order: 'entry, line_no',
    columns: `entity, period, day_period, status, kind, side, journal, account, entry, line_no, day, posting_date, counterparty, posted_by, ${DIMS},
      amount, currency_amount, entry_number, document, currency, quantity, unit, description, extra`,
  },
  'entry/1': {
    table: 'entry',
    order: 'id',
    columns: 'id, entity, number, journal, description, entered_at, approved_by, reversal_of, source',
  },
  'budget/1': {
    table: 'budget',
    order: 'id',
    columns: `id, entity, version, account, period, ${DIMS}, amount, description`,
  },
  'commitment/1': {
    table: 'commitment',
    order: 'id',
    columns: `id, entity, number, line_no, date, due_date, period, account, counterparty, ${DIMS}, amount, ordered, description`,
  },
  'document/1': {
    table: 'document',
    order: 'id',
    columns: 'id, entity, number, type, date, due_date, counterparty, currency, amount, account, description',
  },
  'document_link/1': { table: 'document_link', order: 'id', columns: 'id, entity, source, target, applied, date' },
  'document_line/1': {
    table: 'document_line',
    order: 'id',
    columns:
      'id, entity, document, line_no, item, description, quantity, unit, unit_price, amount, tax_code, tax_amount, account',
  },
  'attachment/1': { table: 'attachment', order: 'id', columns: 'id, entity, document, name, digest, bytes' },
  'rate/1': { table: 'rate', order: 'id', columns: 'id, date, from_currency, to_currency, kind, rate' },
  'tax_code/1': { table: 'tax_code', order: 'id', columns: 'id, entity, code, name, rate, box, net_box' },
  'scheme_caption/1': { table: 'scheme_caption', order: 'id', columns: 'id, scheme, code, name, names' },
} as const;
export type Sealed = keyof typeof SEALED;
export const SEALED_KINDS = Object.keys(SEALED) as Sealed[];

/** Codes that rows are kept by number of: a number that comes to mean another code would change what every row says. */
const CODES = {
  'codes of account/1': { table: 'account', columns: 'id, entity, code' },
  'codes of member/1': { table: 'member', columns: 'id, dimension, code' },
  'codes of dimension/1': { table: 'dimension', columns: 'id, code, slot' },
  'codes of counterparty/1': { table: 'counterparty', columns: 'id, code' },
  'codes of journal/1': { table: 'journal', columns: 'id, code' },
  'codes of ledger_user/1': { table: 'ledger_user', columns: 'id, code' },
} as const;
type Coded = keyof typeof CODES;
export const CODED_KINDS = Object.keys(CODES) as Coded[];

export interface Seal {
  load: number;
  what: string;
  /** Of codes: the greatest number that it reaches. */
  rows: number;
  digest: string;
}

/** Entries by which books are on the cash basis are worked out from what was loaded, and are no part of it. */
const loadedOnly = (table: string): string =>
  table === 'line' || table === 'entry' ? 'entity in (select id from entity)' : 'true';

/** What the rows of a load come to; kinds of which it has none are left out. */
export async function sealsOfLoad(db: Knex, load: number, onRows: (rows: number) => void): Promise<Seal[]> {
  const found: Seal[] = [];
  for (const what of SEALED_KINDS) {
    const { table, order, columns } = SEALED[what];
    const where = table === 'line' ? await rangeOfEntries(db, load) : `load = ${Number(load)}`;
    if (where === null) continue;
    const sums = await digests(
      db,
      `select load, ${columns} from ${table} where ${where} and ${loadedOnly(table)} order by ${order}`,
      onRows,
    );
    for (const [, { rows, hash }] of sums) found.push({ load, what, rows, digest: hash.digest('hex') });
  }
  for (const what of CODED_KINDS) {
    const { table, columns } = CODES[what];
    const sums = await digests(db, `select 0, ${columns} from ${table} order by id`, () => {});
    const [row] = await rowsOf<{ last: number }>(db, `select coalesce(max(id), 0)::integer as last from ${table}`);
    for (const [, { hash }] of sums) found.push({ load, what, rows: row?.last ?? 0, digest: hash.digest('hex') });
  }
  return found;
}

/** Lines are found by their entries, whose numbers lie side by side in a load. */
async function rangeOfEntries(db: Db, load: number): Promise<string | null> {
  const [row] = await rowsOf<{ first: number | null; last: number | null }>(
    db,
    'select min(id) as first, max(id) as last from entry where load = ?',
    [load],
  );
  return row?.first == null
    ? null
    : `load = ${Number(load)} and entry between ${Number(row.first)} and ${Number(row.last)}`;
}

export const keepSeals = (db: Db, seals: readonly Seal[]): Promise<unknown> =>
  seals.length === 0 ? Promise.resolve() : db('load_digest').insert(seals).onConflict(['load', 'what']).ignore();

export const readSeals = (db: Db): Promise<Seal[]> =>
  rowsOf(db, 'select load, what, rows, digest from load_digest order by load, what');

/** Rows of a kind as they are now, load by load: one pass over all of them. */
export async function nowOf(
  db: Knex,
  what: Sealed,
  onRows: (rows: number) => void,
): Promise<Map<number, { rows: number; digest: string }>> {
  const { table, order, columns } = SEALED[what];
  const sums = await digests(
    db,
    `select load, ${columns} from ${table} where ${loadedOnly(table)} order by ${order}`,
    onRows,
  );
  return new Map([...sums].map(([load, { rows, hash }]) => [load, { rows, digest: hash.digest('hex') }]));
}

/** Codes as they are now, up to each of the numbers asked for. */
export async function codesNow(db: Knex, what: Coded, upTo: readonly number[]): Promise<Map<number, string>> {
  const { table, columns } = CODES[what];
  const found = new Map<number, string>();
  const ends = [...new Set(upTo)].sort((a, b) => a - b);
  const hash = createHash('sha256');
  let from = 0;
  for (const end of ends) {
    for (const [, part] of await digests(
      db,
      `select 0, ${columns} from ${table} where id > ${from} and id <= ${Number(end)} order by id`,
      () => {},
      hash,
    ))
      found.set(end, part.hash.copy().digest('hex'));
    if (!found.has(end)) found.set(end, hash.copy().digest('hex'));
    from = end;
  }
  return found;
}

interface Sum {
  rows: number;
  hash: Hash;
}

const TAB = 9;
const LINE_FEED = 10;

/** Hashes the rows of a question by their first column, a load's number, as they come from the database; none is kept. */
async function digests(db: Knex, sql: string, onRows: (rows: number) => void, into?: Hash): Promise<Map<number, Sum>> {
  const sums = new Map<number, Sum>();
  const client = (await db.client.acquireConnection()) as PoolClient;
  try {
    let rest: Buffer = Buffer.alloc(0);
    for await (const chunk of client.query(copyTo(`copy (${sql}) to stdout`))) {
      const bytes = rest.length === 0 ? (chunk as Buffer) : Buffer.concat([rest, chunk as Buffer]);
      let at = 0;
      let rows = 0;
      for (let end = bytes.indexOf(LINE_FEED, at); end >= 0; end = bytes.indexOf(LINE_FEED, at)) {
        const tab = bytes.indexOf(TAB, at);
        const load = Number(bytes.toString('latin1', at, tab));
        let sum = sums.get(load);
        if (!sum) {
          sum = { rows: 0, hash: into ?? createHash('sha256') };
          sums.set(load, sum);
        }
        sum.hash.update(bytes.subarray(tab + 1, end + 1));
        sum.rows += 1;
        rows += 1;
        at = end + 1;
      }
      rest = bytes.subarray(at);
      onRows(rows);
    }
  } finally {
    await db.client.releaseConnection(client);
  }
  return sums;
}
