import type { Copied } from './columns/legs';
import { type Db, limitOf, rowsOf } from './db';
import type { FigureSql } from './figureSql';
import type { Question } from './question';

/**
 * Rows of a question that was made of a figure's SQL, from whatever answers it. What the caller adds is in words that both
 * the database and the copies by columns have; values of its own stand in it as numbers.
 */
export const answerOf = <Row>(db: Db, { bindings, columns, why }: FigureSql, sql: string): Promise<Row[]> =>
  columns ? columns.engine.rows<Row>(sql, bindings as string[], limitOf(db), why) : rowsOf<Row>(db, sql, bindings, why);

/** A question to the copies by columns, where there are any of all its lines. */
export const copiedOf = (db: Db, question: Question): Copied | null =>
  question.columns ? { question, columns: question.columns, limitMs: limitOf(db) } : null;
