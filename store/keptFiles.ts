import { type Db, rowsOf } from './db';

/** What is needed: files of loads, files that came with documents, and files that were ever attached as evidence. */
const NEEDED = `select file_digest from load union select digest from attachment union select digest from file
  union select digest from taken_out where digest is not null
  union select f->>'digest' from mail, jsonb_array_elements(files) f where sent_at is null`;

/** Files that a person sent to be looked at and did not load. */
export async function heldBy(db: Db, person: number): Promise<{ files: number; bytes: number }> {
  const [row] = await rowsOf<{ files: number; bytes: number }>(
    db,
    `select count(*)::integer as files, coalesce(sum(bytes), 0)::bigint as bytes from kept_file where person = ? and digest not in (${NEEDED})`,
    [person],
  );
  return row ?? { files: 0, bytes: 0 };
}

/** Notes who sent a file, and when. */
export const noteKept = async (db: Db, digest: string, bytes: number, person: number): Promise<void> => {
  await db('kept_file').insert({ digest, bytes, person, kept_at: new Date() }).onConflict('digest').merge();
};

/** Whether somebody sent a file, and it is still kept for them. */
export const sentBy = async (db: Db, digest: string, person: number): Promise<boolean> =>
  (await rowsOf(db, 'select 1 from kept_file where digest = ? and person = ?', [digest, person])).length > 0;

export const neededFiles = async (db: Db): Promise<Set<string>> =>
  new Set((await rowsOf<{ file_digest: string }>(db, NEEDED)).map((r) => r.file_digest));

/** Lets go of a file that was sent before a moment. @returns whether somebody has sent it since, and it stays */
export async function letGoOf(db: Db, digest: string, before: Date): Promise<boolean> {
  await db('kept_file').where({ digest }).andWhere('kept_at', '<', before).delete();
  return (await rowsOf(db, 'select 1 from kept_file where digest = ?', [digest])).length > 0;
}
