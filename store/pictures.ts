import type { Minor } from '@/core/money';
import { answerOf } from './answer';
import type { Db } from './db';
import { hourSql, weekdaySql } from './enteredWhen';
import { linesFrom } from './figureSql';
import type { Question } from './question';

/** What pictures of a figure's lines are drawn from, beside sums: each is one question, to whatever answers it. */

/** With which two digits the amounts of a figure's lines begin; with one where they have no more. Amounts of nothing have none. */
export function digitsOfLines(db: Db, question: Question): Promise<{ digits: string; lines: number }[]> {
  const lines = linesFrom(question);
  return answerOf(
    db,
    lines,
    `select left(abs(s.amount)::varchar, 2) as digits, count(*)::integer as lines ${lines.sql} and s.amount <> 0 group by 1 order by 1`,
  );
}

/** How many entries were entered on which day of the week, 1 Monday to 7 Sunday, and in which hour; null where they do not say. */
export interface EnteredTime {
  weekday: number | null;
  hour: number | null;
  entries: number;
  lines: number;
}

export function enteredTimes(db: Db, question: Question): Promise<EnteredTime[]> {
  const lines = linesFrom(question, { bodies: ['entered_at'] });
  // A copy has the text with each line; the database has it with the entry.
  const [inside, outside] = lines.columns
    ? ['min(s.entered_at)', 't.told']
    : ['0', '(select x.entered_at from entry x where x.id = t.entry)'];
  return answerOf(
    db,
    lines,
    `select ${weekdaySql('u.told')} as weekday, ${hourSql('u.told')} as hour, count(*)::integer as entries, sum(u.lines)::integer as lines
     from (select t.lines, ${outside} as told from (select s.entry, count(*) as lines, ${inside} as told ${lines.sql} group by s.entry) t) u group by 1, 2 order by 1 nulls last, 2 nulls last`,
  );
}

/** Who posted how many lines on which account; the person null where the ledger does not say. */
export interface Posted {
  account: number;
  person: string | null;
  lines: number;
}

export function postedBy(db: Db, question: Question): Promise<Posted[]> {
  const lines = linesFrom(question, { bodies: ['posted_by'] });
  const person = lines.columns ? 't.who' : '(select u.code from ledger_user u where u.id = t.who)';
  return answerOf(
    db,
    lines,
    `select t.account, ${person} as person, t.lines::integer as lines
     from (select s.account, s.posted_by as who, count(*) as lines ${lines.sql} group by 1, 2) t`,
  );
}

/** How many lines have an amount, whatever its sign, in which step; steps are counted from the first. */
export function sizesOfLines(
  db: Db,
  question: Question,
  { step, from, to }: { step: Minor; from: Minor; to: Minor },
): Promise<{ at: number; lines: number }[]> {
  const lines = linesFrom(question);
  const [size, by] = [`(abs(s.amount) - ${wholeNumber(from)})`, wholeNumber(step)];
  return answerOf(
    db,
    lines,
    `select ((${size} - ${size} % ${by}) / ${by})::integer as at_step, count(*)::integer as lines
     ${lines.sql} and ${size} >= 0 and ${size} < ${wholeNumber(to - from)} group by 1 order by 1`,
  ).then((rows) => (rows as { at_step: number; lines: number }[]).map((r) => ({ at: r.at_step, lines: r.lines })));
}

/** How many lines lie just beneath each bound, and just above it. @param near as a part of the bound */
export async function aroundBounds(
  db: Db,
  question: Question,
  bounds: readonly Minor[],
  near: number,
): Promise<{ bound: Minor; beneath: number; above: number }[]> {
  const lines = linesFrom(question);
  const size = 'abs(s.amount)';
  const counted = bounds.flatMap((bound, i) => {
    const [first, end] = [wholeNumber(Math.round(bound * (1 - near))), wholeNumber(Math.round(bound * (1 + near)))];
    return [
      `count(*) filter (where ${size} >= ${first} and ${size} < ${bound})::integer as b${i}`,
      `count(*) filter (where ${size} >= ${bound} and ${size} < ${end})::integer as a${i}`,
    ];
  });
  const [row] = await answerOf<Record<string, number>>(db, lines, `select ${counted.join(', ')} ${lines.sql}`);
  return bounds.map((bound, i) => ({ bound, beneath: row?.[`b${i}`] ?? 0, above: row?.[`a${i}`] ?? 0 }));
}

const wholeNumber = (n: number): string => {
  if (!Number.isSafeInteger(n)) throw new RangeError(`${n} is no whole number`);
  return String(n);
};
