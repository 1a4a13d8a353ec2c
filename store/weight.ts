import type { Split } from '@/core/figure';
import { type Db, rowsOf } from './db';
import { partsFrom, type Question } from './figureSql';

/** Whether the question can only be answered by reading lines. */
export const readsLines = (question: Question, splits: readonly Split[]): boolean => partsFrom(question, splits).source === 'line';

/** Lines that bear on a figure: those of its window and all before it, from which its opening is made. */
export async function bearingCount(db: Db, question: Question): Promise<number> {
  const { sql, bindings } = partsFrom(question, []);
  const [row] = await rowsOf<{ lines: number }>(db, `select coalesce(sum(count), 0)::bigint as lines from (${sql}) s`, bindings);
  return row?.lines ?? 0;
}
