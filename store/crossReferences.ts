import { type Db, rowsOf } from './db';

/** Two pins that are said to be the same figure; the one with the lower number first. */
export interface ReferenceRow {
  id: number;
  a: number;
  b: number;
  name: string;
  made_at: Date;
}

export const listReferences = (db: Db): Promise<ReferenceRow[]> =>
  rowsOf(
    db,
    `select r.id, r.a, r.b, r.made_at, p.name from cross_reference r join person p on p.id = r.person
     join evidence a on a.kind = 'pin' and a.id = r.a and a.removed_at is null
     join evidence b on b.kind = 'pin' and b.id = r.b and b.removed_at is null
     where r.removed_at is null order by r.id`,
  );

/** @returns null where the two are held against each other already */
export async function insertReference(db: Db, a: number, b: number, person: number): Promise<number | null> {
  const [row] = await rowsOf<{ id: number }>(
    db,
    `insert into cross_reference (a, b, person) values (?, ?, ?)
     on conflict (a, b) where removed_at is null do nothing returning id`,
    [a, b, person],
  );
  return row?.id ?? null;
}

export const removeReference = (db: Db, id: number): Promise<unknown> =>
  db('cross_reference').where({ id }).update({ removed_at: new Date() });
