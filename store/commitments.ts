import type { Due } from '@/core/columns';
import type { PlannedColumn } from './budgets';
import { type Db, rowsOf } from './db';

/** Open orders of a company as of a load. */
export interface CommitmentsAsked {
  entity: number;
  asOf: number;
  /** Of these members only, by the slot of their dimension. */
  members: ReadonlyMap<number, readonly number[]>;
  /** On these accounts; null: on all. */
  accounts: readonly number[] | null;
  /** When they fall due, by the day that it is told from. */
  due: { is: Due; day: string };
}

const WHEN: Record<Due, string> = {
  now: 'and coalesce(c.due_date, c.date) <= ?',
  later: 'and coalesce(c.due_date, c.date) > ?',
  all: 'and ?::text is not null',
};

const whereSql = ({ members, due }: CommitmentsAsked): string =>
  `c.entity = ? and c.load <= ? and c.replaced_by > ? and (?::integer[] is null or c.account = any(?::integer[])) ${WHEN[due.is]}
   ${[...members].map(([slot]) => `and c.d${Number(slot)} = any(?::integer[])`).join(' ')}`;

const bound = ({ entity, asOf, accounts, due, members }: CommitmentsAsked): unknown[] => [
  entity,
  asOf,
  asOf,
  accounts,
  accounts,
  due.day,
  ...members.values(),
];

/** Sums of open orders, one for each combination of the columns, each with those columns and its `amount`. */
export function commitmentSums(
  db: Db,
  asked: CommitmentsAsked & { columns: readonly PlannedColumn[] },
): Promise<Record<string, number>[]> {
  const list = asked.columns.map((column) => `c.${column}`).join(', ');
  return rowsOf(
    db,
    `select ${list}, sum(c.amount)::bigint as amount from commitment c where ${whereSql(asked)} group by ${list}`,
    bound(asked) as never[],
  );
}

export interface CommitmentRow {
  number: string;
  line_no: number;
  date: string;
  due_date: string | null;
  account: number;
  counterparty: string | null;
  counterparty_name: string | null;
  amount: number;
  ordered: number | null;
  description: string;
  load: number;
  /** Member of each of the eight slots; 0 where there is none. */
  dims: number[];
}

/** Open orders, what falls due first at the top. */
export const commitmentRows = (db: Db, asked: CommitmentsAsked, limit: number): Promise<CommitmentRow[]> =>
  rowsOf(
    db,
    `select c.number, c.line_no, c.date, c.due_date, c.account, p.code as counterparty, p.name as counterparty_name, c.amount,
       c.ordered, c.description, c.load, array[c.d1, c.d2, c.d3, c.d4, c.d5, c.d6, c.d7, c.d8] as dims
     from commitment c left join counterparty p on p.id = c.counterparty where ${whereSql(asked)}
     order by coalesce(c.due_date, c.date), c.number, c.line_no limit ?`,
    [...bound(asked), limit] as never[],
  );
