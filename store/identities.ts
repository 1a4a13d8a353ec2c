import { type Db, rowsOf } from './db';

/** The person whom a provider knows under a subject; null where nobody was bound to it yet. */
export const personBound = async (db: Db, issuer: string, subject: string): Promise<number | null> =>
  (
    await rowsOf<{ person: number }>(db, 'select person from identity where issuer = ? and subject = ?', [
      issuer,
      subject,
    ])
  )[0]?.person ?? null;

/** Binds a person to a subject of a provider. @returns whether they are: nobody is bound to two of one provider */
export async function bindPerson(db: Db, issuer: string, subject: string, person: number): Promise<boolean> {
  const made = await db('identity').insert({ issuer, subject, person }).onConflict().ignore().returning('person');
  return made.length === 1;
}

/** Lets a person be bound anew, by whoever comes back as them next. @returns how many bonds went */
export const unbindPerson = (db: Db, person: number): Promise<number> => db('identity').where({ person }).delete();
