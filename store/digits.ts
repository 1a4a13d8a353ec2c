import { answerOf } from './answer';
import type { Db } from './db';
import { linesFrom } from './figureSql';
import type { Question } from './question';

/** With which two digits the amounts of a figure's lines begin; with one where they have no more. Amounts of nothing have none. */
export function digitsOfLines(db: Db, question: Question): Promise<{ digits: string; lines: number }[]> {
  const lines = linesFrom(question);
  return answerOf(
    db,
    lines,
    `select left(abs(s.amount)::varchar, 2) as digits, count(*)::integer as lines ${lines.sql} and s.amount <> 0 group by 1 order by 1`,
  );
}
