import { type Db, NEVER, rowsOf } from './db';

export interface BudgetLine {
  account: number;
  period: number;
  amount: number;
  description: string;
  /** Member of each of the eight slots; 0 where it is set for no member. */
  dims: number[];
}

/** Each version of an entity by fiscal year: how much is in it, and by whose load it was last changed. */
export const budgetsOf = (
  db: Db,
  entity: number,
): Promise<{ version: string; year: number; lines: number; load: number; person_name: string; changed_at: Date }[]> =>
  rowsOf(
    db,
    `select b.*, l.person_name, l.created_at as changed_at from (
       select version, (period + 20000) / 100 + 1800 as year, count(*)::integer as lines, max(load) as load
       from budget where entity = ? and replaced_by = ${NEVER} group by 1, 2) b
     join load l on l.id = b.load order by b.year desc, b.version`,
    [entity],
  );

/** The lines of a version that count now, over periods. */
export const budgetLines = async (
  db: Db,
  entity: number,
  version: string,
  from: number,
  to: number,
): Promise<BudgetLine[]> => {
  const rows = await rowsOf<Omit<BudgetLine, 'dims'> & Record<string, number>>(
    db,
    `select account, period, amount, description, d1, d2, d3, d4, d5, d6, d7, d8 from budget
     where entity = ? and version = ? and period between ? and ? and replaced_by = ${NEVER} order by id`,
    [entity, version, from, to],
  );
  return rows.map(({ account, period, amount, description, ...slots }) => ({
    account,
    period,
    amount,
    description,
    dims: [1, 2, 3, 4, 5, 6, 7, 8].map((slot) => Number(slots[`d${slot}`])),
  }));
};

/** The newest load that a version of a fiscal year holds rows of, those replaced since included; 0 if there is none. */
export async function budgetChanged(
  db: Db,
  entity: number,
  version: string,
  from: number,
  to: number,
): Promise<number> {
  const [row] = await rowsOf<{ load: number | null }>(
    db,
    `select greatest(max(load), max(replaced_by) filter (where replaced_by < ${NEVER})) as load from budget
     where entity = ? and version = ? and period between ? and ?`,
    [entity, version, from, to],
  );
  return row?.load ?? 0;
}

/** What sums of a budget are grouped by: accounts, periods, and the slots of dimensions. */
export type PlannedColumn = 'account' | 'period' | `d${1 | 2 | 3 | 4 | 5 | 6 | 7 | 8}`;

export interface PlannedAsked {
  entity: number;
  version: string;
  asOf: number;
  periods: { from: number; to: number };
  /** Of these members only, by the slot of their dimension. */
  members: ReadonlyMap<number, readonly number[]>;
  columns: readonly PlannedColumn[];
}

/** Sums of a budget as of a load, one for each combination of the columns, each with those columns and its `amount`. */
export function plannedSums(db: Db, asked: PlannedAsked): Promise<Record<string, number>[]> {
  const list = asked.columns.map((column) => `b.${column}`).join(', ');
  const narrowed = [...asked.members].map(([slot]) => `and b.d${Number(slot)} = any(?::integer[])`).join(' ');
  return rowsOf(
    db,
    `select ${list}, sum(b.amount)::bigint as amount from budget b
     where b.replaced_by > ? and b.load <= ? and b.version = ? and b.entity = ? and b.period between ? and ? ${narrowed}
     group by ${list}`,
    [
      asked.asOf,
      asked.asOf,
      asked.version,
      asked.entity,
      asked.periods.from,
      asked.periods.to,
      ...asked.members.values(),
    ],
  );
}

/** What each account of a budget is set by: the slots of dimensions of which it names members. */
export async function plannedSlots(
  db: Db,
  asked: Omit<PlannedAsked, 'members' | 'columns'>,
): Promise<Map<number, Set<number>>> {
  const rows = await rowsOf<{ account: number; slots: number[] }>(
    db,
    `select account, array_remove(array[${[1, 2, 3, 4, 5, 6, 7, 8].map((n) => `case when bool_or(d${n} <> 0) then ${n} end`).join(', ')}], null) as slots
     from budget where replaced_by > ? and load <= ? and version = ? and entity = ? and period between ? and ?
     group by account`,
    [asked.asOf, asked.asOf, asked.version, asked.entity, asked.periods.from, asked.periods.to],
  );
  return new Map(rows.map(({ account, slots }) => [account, new Set(slots)]));
}
