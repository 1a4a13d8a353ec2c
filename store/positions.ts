import type { AccountType } from '@/core/ledger';
import { KIND, STATUS } from './codes';
import { type Db, NEVER, rowsOf } from './db';

export interface MemberSum {
  member: number;
  type: AccountType;
  period: number;
  opening: boolean;
  amount: number;
}

/** Signed sums by member of a dimension, account type and period, up to a period: results and equity only. */
export const memberSumsUpTo = (db: Db, entity: number, slot: number, to: number, asOf: number, status: 'posted' | 'all' | 'unposted'): Promise<MemberSum[]> =>
  rowsOf(
    db,
    `select b.member, a.type, b.period, b.kind = ${KIND.opening} as opening, sum(b.debit - b.credit)::bigint as amount
     from balance_member b join account a on a.id = b.account
     where b.entity = ? and b.slot = ? and b.period <= ? and b.load <= ? and a.type in ('income', 'expense', 'equity')
       ${status === 'all' ? '' : `and b.status = ${STATUS[status]}`} group by 1, 2, 3, 4`,
    [entity, slot, to, asOf],
  );

/** Open commitments by member and period in which they fall due. */
export const commitmentsByMember = (db: Db, entity: number, slot: number, asOf: number): Promise<{ member: number; period: number; amount: number }[]> =>
  rowsOf(
    db,
    `select d${Number(slot)} as member, period, sum(amount)::bigint as amount from commitment
     where entity = ? and load <= ? and replaced_by > ? and replaced_by <= ${NEVER} group by 1, 2`,
    [entity, asOf, asOf],
  );
