import { appendFileSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import type { Knex } from 'knex';
import type { Act } from '@/contracts/acts';
import { sha256Text } from '@/core/digest';
import { type Db, rowsOf } from './db';
import { log } from './log';

/** One act in the record of who did what. Each holds the hash of the one before it (method.md §13). */
/** Something that somebody did. */
export interface Deed {
  person: number | null;
  personName: string;
  act: Act;
  subject: string;
  detail: Record<string, unknown>;
}

const RECORD_LOCK = 7_240_002;
const FIRST_HASH = '0'.repeat(64);

/**
 * Where the head of the record is written down outside of the database, each time that something is added: a record that
 * is cut at its end, emptied, or made anew from some entry on no longer has what was anchored.
 */
let anchors: string | null = null;
export const keepAnchors = (path: string): void => {
  anchors = path;
};

/** Where they lie, in the state folder. */
export const ANCHORS_FILE = 'record.anchors';

/** The hashes that were written down, by entry. */
export async function readAnchors(path: string): Promise<Map<number, string>> {
  const text = await readFile(path, 'utf8').catch(() => '');
  const found = new Map<number, string>();
  for (const line of text.split('\n')) {
    const [, number, hash] = /^(\d+) ([0-9a-f]{64}) /.exec(line) ?? [];
    // The first is what counts: whoever makes a record anew writes other hashes behind it.
    if (number && hash && !found.has(Number(number))) found.set(Number(number), hash);
  }
  return found;
}

/** How far the record goes: the number of its last entry, and that entry's hash, which stands for all before it. */
export interface Head {
  number: number;
  hash: string;
}

/**
 * Adds to the record, in the transaction of what was done.
 * @param db a transaction: an act is on record if and only if it was done
 * @returns the record's new head
 */
export async function addToRecord(
  db: Knex.Transaction,
  { person, personName, act, subject, detail }: Deed,
): Promise<Head> {
  await db.raw('select pg_advisory_xact_lock(?)', [RECORD_LOCK]);
  const last = await readHead(db);
  const entry = {
    id: last.number + 1,
    at: new Date().toISOString(),
    person,
    person_name: personName,
    act,
    subject,
    // As it will be read: a moment, for one, is kept as a text, and what is undefined not at all.
    detail: JSON.parse(JSON.stringify(detail)) as Hashed['detail'],
    previous_hash: last.hash,
  };
  const hash = hashOf(entry);
  await db('record').insert({ ...entry, detail: JSON.stringify(entry.detail), hash });
  db.executionPromise.then(() => anchor({ number: entry.id, hash }, entry.at)).catch(() => {}); // what was rolled back has no anchor
  return { number: entry.id, hash };
}

export async function readHead(db: Db): Promise<Head> {
  const [last] = await rowsOf<{ id: number; hash: string }>(db, 'select id, hash from record order by id desc limit 1');
  return { number: last?.id ?? 0, hash: last?.hash ?? FIRST_HASH };
}

function anchor({ number, hash }: Head, at: string): void {
  if (anchors === null) return;
  try {
    appendFileSync(anchors, `${number} ${hash} ${at}\n`, { mode: 0o600 });
  } catch (error) {
    // What was done is done and on record; that it could not be anchored is for whoever runs the machine.
    log().error({ error: (error as Error).message, number }, 'the head of the record could not be anchored');
  }
}

export interface RecordAsked {
  person?: string | undefined;
  act?: string | undefined;
  subject?: string | undefined;
  from?: string | undefined;
  to?: string | undefined;
  limit: number;
  /** Entries before this one. */
  before: number | null;
}

/** Entries, newest first. */
export function listRecord(
  db: Db,
  { person, act, subject, from, to, limit, before }: RecordAsked,
): Promise<RecordRow[]> {
  const where = db('record').orderBy('id', 'desc').limit(limit);
  if (before !== null) where.where('id', '<', before);
  if (person !== undefined) where.where('person_name', person);
  if (act !== undefined) where.where('act', act);
  if (subject !== undefined) where.where('subject', subject);
  if (from !== undefined) where.where('at', '>=', from);
  if (to !== undefined) where.whereRaw('at < ?::date + 1', [to]);
  return where as unknown as Promise<RecordRow[]>;
}

/** What was done to a subject, newest first. */
export const actsOn = (db: Db, subject: string, limit: number): Promise<RecordRow[]> =>
  rowsOf(db, 'select * from record where subject = ? order by id desc limit ?', [subject, limit]);

/** Who looked at any of these things, as a minute's looks name them, how many minutes, and when last. */
export const whoLookedAt = (
  db: Db,
  things: readonly string[],
): Promise<{ person: string; minutes: number; last: Date }[]> =>
  rowsOf(
    db,
    `select person_name as person, count(*)::integer as minutes, max(at) as last from record
     where act = 'looked at' and (detail->'things') \\?| ?::text[] group by 1 order by 3 desc`,
    [things],
  );

const PAGE_ROWS = 10_000;

/**
 * Walks the record from its first entry, page by page.
 * @param anchored hashes by entry, as they were written down outside
 * @returns how far it goes, and the first entry at which the chain or an anchor does not hold; null if all does
 */
export async function walkRecord(
  db: Db,
  anchored: ReadonlyMap<number, string> = new Map(),
): Promise<Head & { brokenAt: number | null }> {
  let head: Head = { number: 0, hash: FIRST_HASH };
  const broken = (at: number) => ({ ...head, brokenAt: at });
  for (;;) {
    const rows = await rowsOf<RecordRow>(db, 'select * from record where id > ? order by id limit ?', [
      head.number,
      PAGE_ROWS,
    ]);
    for (const { hash, at, ...rest } of rows) {
      if (rest.id !== head.number + 1) return broken(head.number + 1);
      if (rest.previous_hash !== head.hash || hashOf({ ...rest, at: at.toISOString() }) !== hash)
        return broken(rest.id);
      if ((anchored.get(rest.id) ?? hash) !== hash) return broken(rest.id);
      head = { number: rest.id, hash };
    }
    if (rows.length < PAGE_ROWS) break;
  }
  const last = Math.max(0, ...anchored.keys());
  return last > head.number ? broken(head.number + 1) : { ...head, brokenAt: null };
}

type Hashed = {
  id: number;
  at: string;
  person: number | null;
  person_name: string;
  act: string;
  subject: string;
  detail: Record<string, unknown>;
  previous_hash: string;
};
export type RecordRow = Omit<Hashed, 'at'> & { at: Date; hash: string };

const hashOf = (e: Hashed): string =>
  sha256Text(
    JSON.stringify([e.id, e.at, e.person, e.person_name, e.act, e.subject, sorted(e.detail), e.previous_hash]),
  );

/** jsonb does not keep the order of keys, so that the hash is taken over sorted ones. */
function sorted(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sorted);
  if (value === null || typeof value !== 'object') return value;
  return Object.fromEntries(
    Object.entries(value)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([k, v]) => [k, sorted(v)]),
  );
}
