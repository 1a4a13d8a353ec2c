import type { Rate } from '@/core/translate';
import { type Db, rowsOf } from './db';
import { sumsUpTo } from './figureSql';
import type { EntityQuestion, Question } from './question';

/** Rates between any of those currencies and another, as of a load. */
export const ratesTo = (db: Db, to: string, asOf: number): Promise<Rate[]> =>
  rowsOf(
    db,
    `select date, from_currency as "from", to_currency as "to", kind, rate::text as rate from rate
     where (to_currency = ? or from_currency = ?) and load <= ? and replaced_by > ? order by date`,
    [to, to, asOf, asOf],
  );

export interface PeriodSum {
  account: number;
  /** The period in which a line counts, and that in which it was booked: by date they differ for adjustment periods. */
  period: number;
  booked: number;
  /** Loaded opening balances. */
  opening: boolean;
  within: boolean;
  amount: number;
  count: number;
}

/** Signed sums of an entity by account and period up to the end of a question's window. */
export function sumsByPeriod(db: Db, question: Question, entity: EntityQuestion): Promise<PeriodSum[]> {
  const { sql, bindings } = sumsUpTo(question, entity, { byDay: false, accounts: null });
  return rowsOf(db, sql, bindings);
}

/** The same of some accounts by day: what is translated at the rate of the day that it came in. */
export function sumsByDay(
  db: Db,
  question: Question,
  entity: EntityQuestion,
  accounts: number[],
): Promise<(PeriodSum & { day: string })[]> {
  const { sql, bindings } = sumsUpTo(question, entity, { byDay: true, accounts });
  return rowsOf(db, sql, bindings);
}
