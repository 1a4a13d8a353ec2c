import type { Minor } from '@/core/money';
import { answerOf } from './answer';
import { whole } from './columns/words';
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
  const [size, by] = [`(abs(s.amount) - ${whole(from)})`, whole(step)];
  return answerOf(
    db,
    lines,
    `select ((${size} - ${size} % ${by}) / ${by})::integer as at_step, count(*)::integer as lines
     ${lines.sql} and ${size} >= 0 and ${size} < ${whole(to - from)} group by 1 order by 1`,
  ).then((rows) => (rows as { at_step: number; lines: number }[]).map((r) => ({ at: r.at_step, lines: r.lines })));
}

/** How many lines have an amount of so many digits that begins with these four, whatever its sign; of those that are asked for. */
export interface Beginning {
  digits: number;
  first: number;
  lines: number;
}

/**
 * Lines by the first four digits of their amounts, noughts put behind shorter ones.
 * @param spans the first digits that are wanted, as numbers from and up to
 */
export function beginningsOfLines(
  db: Db,
  question: Question,
  spans: readonly { from: number; to: number }[],
): Promise<Beginning[]> {
  const lines = linesFrom(question);
  const wanted = spans.map(({ from, to }) => `(t.first >= ${whole(from)} and t.first < ${whole(to)})`);
  return answerOf(
    db,
    lines,
    `select t.digits, t.first, t.lines from (
       select length(abs(s.amount)::varchar)::integer as digits, left(rpad(abs(s.amount)::varchar, 4, '0'), 4)::integer as first, count(*)::integer as lines
       ${lines.sql} group by 1, 2
     ) t where ${wanted.join(' or ')}`,
  );
}
