import { SETTLING } from '@/core/openItems';
import { type Db, rowsOf } from './db';
import { ON_CONTROLS } from './documents';
import type { FigureSql } from './figureSql';

/** The documents of a control account up to a day, as of a load. */
export interface OnAccount {
  entity: number;
  account: number;
  currency: string;
  at: string;
  asOf: number;
  /** Codes of those they are with; null: all. */
  counterparties: string[] | null;
}

const ITEMS = `from document d ${ON_CONTROLS.joined} where ${ON_CONTROLS.where}`;
const itemsAsked = (on: OnAccount): unknown[] => ON_CONTROLS.bound({ ...on, accounts: [on.account] });

/** What documents say of a control account, and what its lines say, where the two differ. Amounts as the ledger signs them, in minor units. */
export interface UnmatchedRow {
  /** Of a document that is known by it, or that lines name; null of an entry without either. */
  number: string | null;
  entry: string | null;
  type: string | null;
  date: string;
  description: string;
  counterparty_code: string | null;
  counterparty_name: string | null;
  currency: string | null;
  /** What the document is worth on the account; null where there is none, or it is in another currency. */
  document: number | null;
  /** What lines with its number, or of the entry with its number, come to; null where there are none. */
  booked: number | null;
  lines: number;
}

export interface UnmatchedTotals {
  /** Documents and groups of lines that were held against each other. */
  compared: number;
  unmatched: number;
  /** Σ booked − Σ documents over all of them. */
  difference: number;
}

/**
 * The documents of a control account, each held against the lines of the account that belong to it: those of the entry of
 * its number, and those that name it. What differs comes back, the largest first.
 * @param options.credit whether what is owed is on the credit side of the account
 */
export async function unmatchedOn(
  db: Db,
  lines: FigureSql,
  on: OnAccount,
  options: { credit: boolean; limit: number },
): Promise<{ rows: UnmatchedRow[]; totals: UnmatchedTotals }> {
  const sign = options.credit ? '-' : '';
  const found = await rowsOf<UnmatchedRow & UnmatchedTotals>(
    db,
    `with items as materialized (
       select d.number, d.type, d.date, d.description, d.currency, d.counterparty,
         case when d.currency = ? then (case when d.type ~* ? then -1 else 1 end) * (${sign}d.amount) end as worth
       ${ITEMS}),
     booked as (
       select coalesce(i.number, s.document) as number,
         case when coalesce(i.number, s.document) is null then s.entry_number end as entry,
         min(s.day) as date, min(s.description) as description, min(s.counterparty) as counterparty, count(*)::integer as lines,
         sum(s.amount)::bigint as amount
       from (select s.* ${lines.sql}) s left join items i on i.number = s.entry_number group by 1, 2),
     held as (
       select coalesce(i.number, b.number) as number, b.entry, i.type, coalesce(i.date, b.date) as date,
         coalesce(i.description, b.description) as description, coalesce(i.counterparty, b.counterparty) as counterparty,
         i.currency, i.worth as document, b.amount as booked, coalesce(b.lines, 0) as lines,
         coalesce(b.amount, 0) - coalesce(i.worth, 0) as off
       from items i full join booked b on b.number = i.number),
     totals as (
       select count(*)::integer as compared, count(*) filter (where off <> 0)::integer as unmatched,
         coalesce(sum(off), 0)::bigint as difference from held)
     select t.*, h.number, h.entry, h.type, h.date::text as date, h.description, c.code as counterparty_code,
       c.name as counterparty_name, h.currency, h.document, h.booked, h.lines
     from totals t left join (select * from held where off <> 0 order by abs(off) desc, number, entry limit ?) h on true
     left join counterparty c on c.id = h.counterparty order by abs(h.off) desc, h.number, h.entry`,
    [on.currency, SETTLING.source, ...itemsAsked(on), ...lines.bindings, options.limit],
  );
  const [first] = found;
  const { compared = 0, unmatched = 0, difference = 0 } = first ?? {};
  const rows = found.filter((row) => row.date !== null);
  return {
    rows: rows.map(({ compared: _c, unmatched: _u, difference: _d, ...row }) => row),
    totals: { compared, unmatched, difference },
  };
}

/** An amount that one document applied to another of which only one is on the account: it moves between accounts. */
export interface LooseLink {
  source: string;
  target: string;
  date: string;
  applied: number;
  /** By how much it changes what is open on the account; what is owed is positive. */
  change: number;
}

/**
 * What documents applied to each other where that does not cancel out on an account, as where one of the two is on another
 * account or on none.
 */
export const looseLinks = (db: Db, on: OnAccount): Promise<LooseLink[]> =>
  rowsOf(
    db,
    `with items as materialized (select d.number, d.type ~* ? as settles ${ITEMS} and d.currency = ?),
     controlled as (select number from document where entity = ? and account is not null
       union select number from document_control where entity = ?)
     select * from (
       select l.source, l.target, l.date::text as date, l.applied,
         case when s.number is null then 0 when not s.settles then -l.applied when o.number is not null then l.applied else 0 end
           + case when t.number is not null and t.settles then l.applied else 0 end as change
       from document_link l left join items s on s.number = l.source left join items t on t.number = l.target
       left join controlled o on o.number = l.target
       where l.entity = ? and l.load <= ? and l.replaced_by > ? and l.date <= ? and (s.number is not null or t.number is not null)) l
     where change <> 0 order by date, source, target`,
    [
      ...[SETTLING.source, ...itemsAsked(on), on.currency, on.entity, on.entity],
      ...[on.entity, on.asOf, on.asOf, on.at],
    ],
  );
