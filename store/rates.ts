import type { Rate } from '@/core/translate';
import { KIND, STATUS } from './codes';
import { type Db, rowsOf } from './db';

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
  period: number;
  /** Loaded opening balances. */
  opening: boolean;
  amount: number;
  count: number;
}

/** Signed sums by account and period up to a period, from the summaries. @param only lines with those members */
export const sumsByPeriod = (
  db: Db,
  entity: number,
  to: number,
  asOf: number,
  status: 'posted' | 'all' | 'unposted',
  only: { slot: number; ids: number[] } | null = null,
): Promise<PeriodSum[]> =>
  rowsOf(
    db,
    `select account, period, kind = ${KIND.opening} as opening, sum(debit - credit)::bigint as amount, sum(count)::integer as count
     from ${only ? 'balance_member' : 'balance_period'}
     where entity = ? and period <= ? and load <= ? ${status === 'all' ? '' : `and status = ${STATUS[status]}`}
       ${only ? 'and slot = ? and member = any(?::integer[])' : ''} group by 1, 2, 3`,
    [entity, to, asOf, ...(only ? [only.slot, only.ids] : [])],
  );

/** Signed sums of some accounts by day: what is translated at the rate of the day that it came in. */
export const sumsByDay = (
  db: Db,
  entity: number,
  accounts: number[],
  to: number,
  asOf: number,
  status: 'posted' | 'all' | 'unposted',
): Promise<(PeriodSum & { day: string })[]> =>
  rowsOf(
    db,
    `select account, period, day, kind = ${KIND.opening} as opening, sum(debit - credit)::bigint as amount, sum(count)::integer as count from balance_day
     where entity = ? and account = any(?::integer[]) and period <= ? and load <= ? ${status === 'all' ? '' : `and status = ${STATUS[status]}`} group by 1, 2, 3, 4`,
    [entity, accounts, to, asOf],
  );
