import type { TickedLine } from '@/core/figure';
import { answerOf } from './answer';
import { type Db, rowsOf } from './db';
import { linesFrom } from './figureSql';
import { asStored, type Question } from './question';

/**
 * The entries of ticked lines by their ids, as they count as of a load; what is gone by then is left out.
 * @param books all numbers under which lines of a company are kept, those of what is proposed among them
 */
export const storedTicks = async (
  db: Db,
  books: readonly { code: string; books: number }[],
  ticked: readonly Omit<TickedLine, 'id'>[],
  asOf: number,
): Promise<TickedLine[]> =>
  ticked.length === 0
    ? []
    : rowsOf<TickedLine>(
        db,
        `with books as (select * from unnest(?::text[], ?::smallint[]) b(code, books))
         select k.code as entity, k.entry, k.line, e.id from unnest(?::text[], ?::text[], ?::integer[]) k(code, entry, line)
         join books b on b.code = k.code
         join entry e on e.entity = b.books and e.number = k.entry and e.load <= ? and e.replaced_by > ? order by e.id, k.line`,
        [
          books.map((b) => b.code),
          books.map((b) => b.books),
          ticked.map((t) => t.entity),
          ticked.map((t) => t.entry),
          ticked.map((t) => t.line),
          asOf,
          asOf,
        ],
      );

export interface LineShare {
  lines: number;
  ticked: number;
  /** Sum of the lines' amounts, whatever their side, in minor units. */
  amount: number;
  tickedAmount: number;
}

/**
 * How many of a figure's lines are among those that bear a tick, and how much they come to. The lines that are ticked are
 * few, and found by the numbers that they bear; all of them are summed by whatever is quickest.
 */
export async function shareOfLines(
  db: Db,
  question: Question,
  ticked: readonly Omit<TickedLine, 'id'>[],
): Promise<LineShare> {
  const lines = linesFrom(question);
  const [all] = await answerOf<{ n: number; amount: number | null }>(
    db,
    lines,
    `select count(*)::bigint as n, sum(abs(s.amount))::bigint as amount ${lines.sql}`,
  );
  const whole = { lines: Number(all?.n ?? 0), amount: Number(all?.amount ?? 0) };
  if (ticked.length === 0 || whole.lines === 0) return { ...whole, ticked: 0, tickedAmount: 0 };
  const books = question.entities.flatMap((e) => e.books.map((number) => ({ code: e.entity.code, books: number })));
  const entries = await storedTicks(db, books, ticked, question.asOf);
  const stored = linesFrom(asStored(question));
  const [found] = await rowsOf<{ n: number; amount: number | null }>(
    db,
    `select count(*)::integer as n, sum(abs(s.amount))::bigint as amount
     ${stored.sql} and (s.entry, s.line_no) in (select * from unnest(?::integer[], ?::integer[]))`,
    [...(stored.bindings as unknown[]), entries.map((e) => e.id), entries.map((e) => e.line)],
  );
  return { ...whole, ticked: found?.n ?? 0, tickedAmount: Number(found?.amount ?? 0) };
}
