import type { Split } from '@/core/figure';
import type { Rate } from '@/core/translate';
import { answerOf } from './answer';
import { keyNames, TooManyRowsError } from './balances';
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
  /** One name for each of the splits that were asked for; null: none. */
  keys: (string | null)[];
}

/** More sums than this are translated in no sheet that anybody reads; the question is refused with a remedy. */
const SUMS_MAX = 400_000;

/**
 * Signed sums of an entity by account and period up to the end of a question's window.
 * @param splits of what a line itself has, see sumsUpTo
 * @throws TooManyRowsError
 */
export const sumsByPeriod = (
  db: Db,
  question: Question,
  entity: EntityQuestion,
  splits: readonly Split[] = [],
): Promise<PeriodSum[]> => sums(db, question, entity, splits, null);

/** The same of some accounts by day: what is translated at the rate of the day that it came in. */
export const sumsByDay = (
  db: Db,
  question: Question,
  entity: EntityQuestion,
  accounts: number[],
  splits: readonly Split[] = [],
): Promise<(PeriodSum & { day: string })[]> =>
  sums(db, question, entity, splits, accounts) as Promise<(PeriodSum & { day: string })[]>;

async function sums(
  db: Db,
  question: Question,
  entity: EntityQuestion,
  splits: readonly Split[],
  byDayOf: number[] | null,
): Promise<PeriodSum[]> {
  const sum = sumsUpTo(question, entity, { byDay: byDayOf !== null, accounts: byDayOf, splits });
  const rows = await answerOf<Omit<PeriodSum, 'keys'> & Record<`key${number}`, string | number | null>>(
    db,
    sum,
    `${sum.sql} limit ${SUMS_MAX + 1}`,
  );
  if (rows.length > SUMS_MAX) throw new TooManyRowsError();
  const names = await keyNames(db, splits, rows, question);
  return rows.map((row) => ({ ...row, keys: names(row) }));
}
