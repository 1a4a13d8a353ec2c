import { sha256Text } from '@/core/digest';
import { type Db, rowsOf } from './db';

/** One act in the record of who did what. Each holds the hash of the one before it (method.md §13). */
export interface Act {
  person: number | null;
  personName: string;
  act: string;
  subject: string;
  detail: Record<string, unknown>;
}

const RECORD_LOCK = 7_240_002;
const FIRST_HASH = '0'.repeat(64);

/** Adds to the record, in the transaction of what was done. */
export async function addToRecord(db: Db, { person, personName, act, subject, detail }: Act): Promise<void> {
  await db.raw('select pg_advisory_xact_lock(?)', [RECORD_LOCK]);
  const [last] = await rowsOf<{ id: number; hash: string }>(db, 'select id, hash from record order by id desc limit 1');
  const entry = {
    id: (last?.id ?? 0) + 1,
    at: new Date().toISOString(),
    person,
    person_name: personName,
    act,
    subject,
    detail,
    previous_hash: last?.hash ?? FIRST_HASH,
  };
  await db('record').insert({ ...entry, detail: JSON.stringify(detail), hash: hashOf(entry) });
}

/** The id of the first entry at which the chain is broken; null if it holds. */
export async function brokenAt(db: Db): Promise<number | null> {
  let previous = FIRST_HASH;
  let expected = 1;
  const rows = await rowsOf<RecordRow>(db, 'select * from record order by id');
  for (const { hash, at, ...rest } of rows) {
    if (rest.id !== expected || rest.previous_hash !== previous) return rest.id;
    if (hashOf({ ...rest, at: at.toISOString() }) !== hash) return rest.id;
    previous = hash;
    expected += 1;
  }
  return null;
}

type Hashed = { id: number; at: string; person: number | null; person_name: string; act: string; subject: string; detail: unknown; previous_hash: string };
type RecordRow = Omit<Hashed, 'at'> & { at: Date; hash: string };

const hashOf = (e: Hashed): string => sha256Text(JSON.stringify([e.id, e.at, e.person, e.person_name, e.act, e.subject, sorted(e.detail), e.previous_hash]));

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
