import type { Minor } from '@/core/money';
import { quoted } from '../duck';
import { type Question, SUMMARISED, wordsAsked } from '../question';
import { type Copied, placesOf, windowLines } from './legs';
import { partName } from './manifest';
import { OTHER, SEVERAL, SHARED, sharedOut, sumTable } from './shape';
import { Texts, visible } from './words';

/** What is on the other side of some lines, added up. */
export interface OtherSideSum<Account = string> {
  /** Whose lines, and the period in which they count. */
  entity: string;
  period: number;
  /** The account that is on their other side. */
  account: Account;
  /** False where it was shared out over several lines on both sides. */
  exact: boolean;
  /** Signed as the other side is booked. */
  amount: Minor;
}

/** Accounts by their numbers. */
type Row = OtherSideSum<number>;

/**
 * Where the other half of a figure's entries went (core/otherSide has the rule), added up. What is on the other side of a
 * line the copy knows; only entries whose lines are not all of one layer are shared out here, as they are as of the load.
 */
export async function otherSideIn({ question, columns, limitMs }: Copied): Promise<Row[]> {
  const texts = new Texts();
  const ofPeriods = isOfPeriods(question);
  const legs = placesOf(question, columns).map((place) => {
    const summed = ofPeriods && (columns.summed.get(place.part.id)?.has(OTHER) ?? false);
    const part = partName(place.part);
    const entity = quoted(place.entity.entity.code);
    const where = windowLines(place, question, texts).join(' and ');
    const hard = '(select entry, line_no, amount from chosen where other is null)';
    const whole = `(select l.entry, l.line_no, l.account, l.amount from ${part}.line l
      where l.entry in (select entry from chosen where other is null) and l.amount <> 0 and ${visible('l', question).join(' and ')})`;
    const known = summed
      ? `select s.day_period as period, s.opposite as account, s.exact, s.amount from ${part}.${sumTable(OTHER)} s where ${where}`
      : `select period, abs(other) as account, other > 0 as exact, -amount as amount from chosen where other <> ${SEVERAL}
         union all
         select c.period, x.account, x.exact, x.amount from chosen c join ${part}.${SHARED} x on x.entry = c.entry and x.line_no = c.line_no
         where c.other = ${SEVERAL}`;
    return `
      select ${entity} as entity, period, account, exact, sum(amount)::bigint as amount from (
        with chosen as materialized (
          select s.entry, s.line_no, s.amount, s.other, s.day_period as period from ${part}.line s
          where ${where} and ${summed ? 's.other is null' : 's.other is distinct from 0'} and s.amount <> 0
        )
        ${known}
        union all
        select c.period, x.account, x.exact, x.amount from (${sharedOut(hard, whole)}) x join chosen c on c.entry = x.entry and c.line_no = x.line_no
      ) s group by all`;
  });
  return columns.engine.rows<Row>(
    `select entity, period, account, exact, sum(amount)::bigint as amount from (${legs.join(' union all ')}) s group by all`,
    texts.values,
    limitMs,
  );
}

/** Whether all that a question asks about is known of sums by period. */
const isOfPeriods = (question: Question): boolean =>
  question.figure.window.by === 'period' && wordsAsked(question, []).every(({ word }) => SUMMARISED.has(word));
