import type { Right, SharedKind } from '@/contracts/work';
import { type Db, rowsOf } from './db';

/** What everybody may who is not named. */
export const EVERYBODY = 0;

export interface SharingRow {
  id: number;
  /** EVERYBODY, or whoever is named. */
  person: number;
  may: Right;
}

/** What was said of who may do what with some things; of what is not among them nothing was said. */
export const readSharing = (db: Db, kind: SharedKind, ids: readonly number[]): Promise<SharingRow[]> =>
  rowsOf(db, 'select id, person, may from sharing where kind = ? and id = any(?::integer[])', [kind, ids]);

/** Says it anew of one thing, as a whole. */
export async function keepSharing(
  db: Db,
  kind: SharedKind,
  id: number,
  rows: readonly Omit<SharingRow, 'id'>[],
): Promise<void> {
  await db('sharing').where({ kind, id }).delete();
  if (rows.length > 0) await db('sharing').insert(rows.map((row) => ({ kind, id, ...row })));
}

/** Says it anew of everybody who is not named. */
export const keepEverybodys = (db: Db, kind: SharedKind, id: number, may: Right): Promise<unknown> =>
  db('sharing').insert({ kind, id, person: EVERYBODY, may }).onConflict(['kind', 'id', 'person']).merge();
