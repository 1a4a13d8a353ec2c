import { type Db, rowsOf } from './db';

/** Words of somebody's as they were before they were changed. */
export interface FormerWords {
  subject: string;
  words: Record<string, string>;
  person_name: string;
  at: Date;
}

/** Keeps what was said before, in the transaction that changes it. */
export const keepFormer = async (
  db: Db,
  subject: string,
  words: Record<string, string>,
  person: number,
): Promise<void> => {
  await db('former_words').insert({ subject, words: JSON.stringify(words), person });
};

export const formerWords = (db: Db, subjects: readonly string[]): Promise<FormerWords[]> =>
  rowsOf(
    db,
    `select f.subject, f.words, p.name as person_name, f.at from former_words f join person p on p.id = f.person
     where f.subject = any(?::text[]) order by f.id`,
    [subjects],
  );
