import type { AccountType } from '@/core/ledger';
import { KIND, STATUS } from './codes';
import { type Db, rowsOf } from './db';

export interface MemberSum {
  member: number;
  type: AccountType;
  period: number;
  opening: boolean;
  amount: number;
}

/** Signed sums of a company’s books by member of a dimension, account type and period, up to a period: results and equity only. */
export const memberSumsUpTo = (
  db: Db,
  books: readonly number[],
  slot: number,
  to: number,
  asOf: number,
  status: 'posted' | 'all' | 'unposted',
): Promise<MemberSum[]> =>
  rowsOf(
    db,
    `select b.member, a.type, b.period, b.kind = ${KIND.opening} as opening, sum(b.debit - b.credit)::bigint as amount
     from balance_member b join account a on a.id = b.account
     where b.entity = any(?::smallint[]) and b.slot = ? and b.period <= ? and b.load <= ? and a.type in ('income', 'expense', 'equity')
       ${status === 'all' ? '' : `and b.status = ${STATUS[status]}`} group by 1, 2, 3, 4`,
    [books, slot, to, asOf],
  );

/** The same of equity by day: what is translated at the rate of the day that it came in. */
export const equityByDay = (
  db: Db,
  books: readonly number[],
  slot: number,
  to: number,
  asOf: number,
  status: 'posted' | 'all' | 'unposted',
): Promise<(MemberSum & { day: string })[]> =>
  rowsOf(
    db,
    `select l.d${Number(slot)} as member, a.type, l.period, l.day, l.kind = ${KIND.opening} as opening, sum(l.amount)::bigint as amount
     from account a join line l on l.account = a.id
     where l.entity = any(?::smallint[]) and a.type = 'equity' and l.period <= ? and l.load <= ? and l.replaced_by > ?
       ${status === 'all' ? '' : `and l.status = ${STATUS[status]}`} group by 1, 2, 3, 4, 5`,
    [books, to, asOf, asOf],
  );
