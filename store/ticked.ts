import { answerOf } from './answer';
import { type Db, rowsOf } from './db';
import { linesFrom } from './figureSql';
import { asStored, type Question } from './question';

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
  ticked: readonly { entity: string; entry: string; line: number }[],
): Promise<LineShare> {
  const lines = linesFrom(question);
  const [all] = await answerOf<{ n: number; amount: number | null }>(
    db,
    lines,
    `select count(*)::bigint as n, sum(abs(s.amount))::bigint as amount ${lines.sql}`,
  );
  const whole = { lines: Number(all?.n ?? 0), amount: Number(all?.amount ?? 0) };
  if (ticked.length === 0 || whole.lines === 0) return { ...whole, ticked: 0, tickedAmount: 0 };
  const books = new Map(question.entities.flatMap((e) => e.books.map((b) => [e.entity.code, b] as const)));
  const entries = await rowsOf<{ id: number; line: number }>(
    db,
    `select e.id, k.line from unnest(?::smallint[], ?::text[], ?::integer[]) k(entity, entry, line)
     join entry e on e.entity = k.entity and e.number = k.entry and e.load <= ? and e.replaced_by > ?`,
    [
      ticked.map((t) => books.get(t.entity) ?? 0),
      ticked.map((t) => t.entry),
      ticked.map((t) => t.line),
      question.asOf,
      question.asOf,
    ],
  );
  const stored = linesFrom(asStored(question));
  const [found] = await rowsOf<{ n: number; amount: number | null }>(
    db,
    `select count(*)::integer as n, sum(abs(s.amount))::bigint as amount
     ${stored.sql} and (s.entry, s.line_no) in (select * from unnest(?::integer[], ?::integer[]))`,
    [...(stored.bindings as unknown[]), entries.map((e) => e.id), entries.map((e) => e.line)],
  );
  return { ...whole, ticked: found?.n ?? 0, tickedAmount: Number(found?.amount ?? 0) };
}
