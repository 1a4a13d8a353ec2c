import { answerOf } from './answer';
import type { Db } from './db';
import { partsFrom } from './figureSql';
import type { Question } from './question';

/** Lines that bear on a figure: those of its window and all before it, from which its opening is made. */
export async function bearingCount(db: Db, question: Question): Promise<number> {
  const parts = partsFrom(question, []);
  const [row] = await answerOf<{ lines: number }>(
    db,
    parts,
    `select coalesce(sum(count), 0)::bigint as lines from (${parts.sql}) s`,
  );
  return row?.lines ?? 0;
}
