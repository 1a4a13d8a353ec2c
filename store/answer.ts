import { whoAsks } from './asking';
import { type Db, limitOf, rowsOf } from './db';
import type { FigureSql } from './figureSql';

/**
 * Rows of a question that was made of a figure's SQL, from whatever answers it. What the caller adds is in words that both
 * the database and the copies by columns have; values of its own stand in it as numbers.
 */
export async function answerOf<Row>(db: Db, { bindings, columns, why }: FigureSql, sql: string): Promise<Row[]> {
  const explained = whoAsks()?.explained;
  const at = explained?.length ?? 0;
  const rows = columns
    ? await columns.engine.rows<Row>(sql, bindings as string[], limitOf(db))
    : await rowsOf<Row>(db, sql, bindings);
  const mine = explained?.[at];
  if (mine) mine.why ??= why;
  return rows;
}
