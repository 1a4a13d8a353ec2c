import type { Role } from '@/contracts/roles';
import { readSubject } from '@/contracts/subject';
import { type Db, rowsOf } from './db';

/** What every piece of evidence has, of whatever kind. */
export interface EvidenceRow {
  id: number;
  /** In its canonical form, see contracts/subject. */
  subject: string;
  entities: string[];
  measure: string | null;
  /** The screen on which it was made. */
  address: string;
  label: string;
  /** The newest load then. */
  load: number;
  person: number;
  name: string;
  /** The role that the person had then. */
  role: Role;
  created_at: Date;
}

export interface NoteRow extends EvidenceRow {
  body: string;
}

/** What a pin froze. */
export interface Frozen {
  sentence: string;
  currency: string;
  value: number;
  lines: number;
  opening: number;
  digest: string;
  digest_version: number;
}

export type PinRow = EvidenceRow & Frozen & { measure: NonNullable<EvidenceRow['measure']> };

interface Own {
  note: NoteRow;
  pin: PinRow;
}
export type EvidenceKind = keyof Own;

const OWN_COLUMNS: Record<EvidenceKind, string> = {
  note: 'o.body',
  pin: 'o.sentence, o.currency, o.value, o.lines, o.opening, o.digest, o.digest_version',
};

const select = (kind: EvidenceKind): string =>
  `select n.id, n.subject, n.entities, n.measure, n.address, n.label, n.load, n.person, n.role, n.created_at, p.name,
     ${OWN_COLUMNS[kind]}
   from evidence n join ${kind} o on o.id = n.id join person p on p.id = n.person
   where n.kind = '${kind}'`;

export type NewEvidence = Pick<EvidenceRow, 'subject' | 'entities' | 'measure' | 'address' | 'label' | 'load'> & {
  person: number;
  role: Role;
};

/** Keeps a piece of evidence. @param own what only its kind has */
export async function insertEvidence(
  db: Db,
  kind: EvidenceKind,
  evidence: NewEvidence,
  own: { body: string } | Frozen,
): Promise<number> {
  const [added] = (await db(kind).insert(own).returning('id')) as { id: number }[];
  const { id } = added as { id: number };
  const about = readSubject(evidence.subject);
  await db('evidence').insert({
    kind,
    id,
    ...evidence,
    entry: about.is === 'figure' ? null : about.entry,
    line: about.is === 'line' ? about.line : null,
  });
  return id;
}

/** Whose evidence is wanted: of these subjects, and of these entities; null: of any. */
export interface EvidenceAsked {
  subjects: readonly string[] | null;
  entities: readonly string[] | null;
  limit: number;
  /** Those after this number. */
  after: number;
}

export const listEvidence = <Kind extends EvidenceKind>(
  db: Db,
  kind: Kind,
  { subjects, entities, limit, after }: EvidenceAsked,
): Promise<Own[Kind][]> =>
  rowsOf(
    db,
    `${select(kind)} and n.removed_at is null and n.id > ?
       ${subjects === null ? '' : 'and n.subject = any(?::text[])'}
       ${entities === null ? '' : 'and n.entities && ?::text[]'}
     order by n.id limit ?`,
    [after, ...(subjects === null ? [] : [subjects]), ...(entities === null ? [] : [entities]), limit],
  );

/** One piece of evidence. @param gone whether one that was taken away is meant as well */
export const readEvidence = async <Kind extends EvidenceKind>(
  db: Db,
  kind: Kind,
  id: number,
  gone = false,
): Promise<Own[Kind] | undefined> =>
  (await rowsOf<Own[Kind]>(db, `${select(kind)} and n.id = ? ${gone ? '' : 'and n.removed_at is null'}`, [id]))[0];

export const removeEvidence = (db: Db, kind: EvidenceKind, id: number): Promise<number> =>
  db('evidence').where({ kind, id }).update({ removed_at: new Date() });

export const restoreEvidence = (db: Db, kind: EvidenceKind, id: number): Promise<number> =>
  db('evidence').where({ kind, id }).update({ removed_at: null });

/** What later loads did to the lines under a pin, as it was worked out once. */
export interface DriftRow {
  pin: number;
  load: number;
  /** The pin's figure as of that load; null where its line or entry is gone. */
  value: number | null;
  lines: unknown[];
  /** There are more changed lines than are kept. */
  more: boolean;
}

export const driftsOf = (db: Db, pins: readonly number[], load: number): Promise<DriftRow[]> =>
  rowsOf(db, 'select * from pin_drift where pin = any(?::integer[]) and load = ?', [pins, load]);

export const keepDrift = async (db: Db, drift: DriftRow): Promise<void> => {
  await db('pin_drift')
    .insert({ ...drift, lines: JSON.stringify(drift.lines) })
    .onConflict(['pin', 'load'])
    .merge();
};

/** Pins whose drift at a load nobody has worked out yet, oldest first. */
export const pinsWithoutDrift = (db: Db, load: number): Promise<PinRow[]> =>
  rowsOf(
    db,
    `${select('pin')} and n.removed_at is null and n.load < ?
       and not exists (select 1 from pin_drift d where d.pin = n.id and d.load = ?) order by n.id`,
    [load, load],
  );

export const everyPin = (db: Db): Promise<PinRow[]> =>
  rowsOf(db, `${select('pin')} and n.removed_at is null order by n.id`);
