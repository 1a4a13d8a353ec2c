import { type Db, rowsOf } from './db';

export interface Letter {
  /** An e-mail address. */
  receiver: string;
  subject: string;
  body: string;
  /** Files that go with it, by the digest under which they are kept. */
  files?: readonly { name: string; digest: string }[];
}

/** Lays letters by to be sent, in the transaction of what they tell of. */
export const layBy = async (trx: Db, letters: readonly Letter[]): Promise<void> => {
  if (letters.length > 0)
    await trx('mail').insert(letters.map(({ files = [], ...letter }) => ({ ...letter, files: JSON.stringify(files) })));
};

/** A letter is tried so often. */
const TRIES_MAX = 5;

/** Letters that are still to be sent, oldest first. */
export const unsentLetters = (db: Db, limit: number): Promise<(Letter & { id: number })[]> =>
  rowsOf(
    db,
    `select id, receiver, subject, body, files from mail where sent_at is null and tries < ${TRIES_MAX} order by tries, id limit ?`,
    [limit],
  );

export const letterSent = (db: Db, id: number): Promise<unknown> =>
  db('mail').where({ id }).update({ sent_at: new Date(), problem: null });

export const letterFailed = (db: Db, id: number, problem: string): Promise<unknown> =>
  db('mail')
    .where({ id })
    .update({ tries: db.raw('tries + 1'), problem });
