import { once } from 'node:events';
import type { Writable } from 'node:stream';
import type { PoolClient } from 'pg';
import { from as copyFrom } from 'pg-copy-streams';
import { type Db, rowsOf } from './db';

/** A line that has passed its own checks, with every name turned into a key. */
export interface StagedLine {
  row: number;
  entity: number;
  entryNumber: string;
  line: number;
  account: number;
  postingDate: string;
  day: string;
  period: number;
  dayPeriod: number;
  status: number;
  kind: number;
  side: number;
  amount: number;
  journal: number;
  counterparty: number;
  postedBy: number;
  dims: number[];
  currency: string | null;
  currencyAmount: number | null;
  quantity: string | null;
  unit: string | null;
  document: string | null;
  description: string;
  entryDescription: string;
  enteredAt: string | null;
  approvedBy: string | null;
  reversalOf: string | null;
  extra: string | null;
}

/**
 * A table of the load's own transaction: it goes with it, whatever happens. No temporary one, since the server reads
 * those on one processor only; loads run one at a time, so that the name is free.
 */
export async function createStage(db: Db): Promise<void> {
  await db.raw(`
    create unlogged table staged_line (
      row_no integer, entity smallint, period smallint, day_period smallint, status smallint, kind smallint,
      side smallint, journal smallint, account integer, line_no integer, day date, posting_date date,
      counterparty integer, posted_by integer,
      d1 integer, d2 integer, d3 integer, d4 integer, d5 integer, d6 integer, d7 integer, d8 integer,
      amount bigint, currency_amount bigint, entry_number text collate "C", document text, currency text,
      quantity numeric, unit text, description text, entry_description text, entered_at text, approved_by text,
      reversal_of text, extra jsonb
    )`);
}

const BATCH_CHARS = 65_536;
/** So much may wait for the server while reading goes on. */
const BUFFER_BYTES = 8 * 1024 * 1024;

/** Streams lines into the stage by COPY on the transaction's own connection, which does nothing else meanwhile. */
export async function stageWriter(db: Db) {
  const client = (db as unknown as { client: { acquireConnection(): Promise<PoolClient> } }).client;
  const connection = await client.acquireConnection();
  const stream = connection.query(copyFrom('copy staged_line from stdin', { highWaterMark: BUFFER_BYTES })) as unknown as Writable;
  const finished = new Promise<void>((resolve, reject) => {
    stream.on('finish', resolve);
    stream.on('error', reject);
  });
  finished.catch(() => {}); // reported by end() or drained()
  let batch = '';
  return {
    /** False when the writer should wait for `drained` before the next line. */
    write(line: StagedLine): boolean {
      batch += copyRow(line);
      if (batch.length < BATCH_CHARS) return true;
      const more = stream.write(batch);
      batch = '';
      return more;
    },
    drained: (): Promise<unknown> => Promise.race([once(stream, 'drain'), finished]),
    async end(): Promise<void> {
      stream.end(batch);
      await finished;
    },
  };
}

function copyRow(l: StagedLine): string {
  return `${[
    ...[l.row, l.entity, l.period, l.dayPeriod, l.status, l.kind, l.side, l.journal, l.account, l.line, l.day],
    ...[l.postingDate, l.counterparty, l.postedBy, ...l.dims, l.amount, l.currencyAmount ?? '\\N'],
    ...[copyText(l.entryNumber), copyText(l.document), copyText(l.currency), l.quantity ?? '\\N', copyText(l.unit)],
    ...[copyText(l.description), copyText(l.entryDescription), copyText(l.enteredAt), copyText(l.approvedBy)],
    ...[copyText(l.reversalOf), copyText(l.extra)],
  ].join('\t')}\n`;
}

/** The text form of COPY: backslash, tab and line breaks are escaped, null is \N. */
function copyText(value: string | null): string {
  if (value === null) return '\\N';
  return /[\\\t\n\r]/.test(value) ? value.replace(/\\/g, '\\\\').replace(/\t/g, '\\t').replace(/\n/g, '\\n').replace(/\r/g, '\\r') : value;
}

export type Dictionary = 'journal' | 'counterparty' | 'ledger_user';
export type Dictionaries = Record<Dictionary, Map<string, number>>;

/** All codes of the small dictionaries with their ids. */
export async function dictionaries(db: Db): Promise<Dictionaries> {
  const read = async (table: Dictionary): Promise<Map<string, number>> =>
    new Map((await rowsOf<{ id: number; code: string }>(db, `select id, code from ${table}`)).map((r) => [r.code, r.id]));
  const [journal, counterparty, ledger_user] = await Promise.all([read('journal'), read('counterparty'), read('ledger_user')]);
  return { journal, counterparty, ledger_user };
}

/** Id of a code in a dictionary; it is added if new. A code that no line uses is seen nowhere. */
export async function idOfCode(db: Db, table: Dictionary, code: string, name: string): Promise<number> {
  const named = table !== 'ledger_user';
  const [row] = await rowsOf<{ id: number }>(
    db,
    `insert into ${table} (code${named ? ', name' : ''}) values (?${named ? ', ?' : ''})
     on conflict (code) do update set code = excluded.code returning id`,
    named ? [code, name] : [code],
  );
  return (row as { id: number }).id;
}
