import { type Db, rowsOf } from './db';
import { partsFrom } from './figureSql';
import type { Question } from './question';

/** Lines that bear on a figure: those of its window and all before it, from which its opening is made. */
export async function bearingCount(db: Db, question: Question): Promise<number> {
  const { sql, bindings } = partsFrom(question, []);
  const [row] = await rowsOf<{ lines: number }>(
    db,
    `select coalesce(sum(count), 0)::bigint as lines from (${sql}) s`,
    bindings,
  );
  return row?.lines ?? 0;
}
