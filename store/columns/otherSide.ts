import type { Minor } from '@/core/money';
import { quoted } from '../duck';
import { type Copied, placesOf, windowLines } from './legs';
import { partName } from './manifest';
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
 * Where the other half of a figure's entries went (core/otherSide has the rule), added up. Most lines have one account on
 * the other side, which the copy knows; of the others the entries are looked at whole, and shared out by the
 * largest-remainder method in whole numbers.
 */
export async function otherSideIn({ question, columns, limitMs }: Copied): Promise<Row[]> {
  const texts = new Texts();
  const legs = placesOf(question, columns).map((place) => {
    const line = `${partName(place.part)}.line`;
    const entity = quoted(place.entity.entity.code);
    return `
      select ${entity} as entity, period, account, exact, sum(amount)::bigint as amount from (
        with chosen as materialized (
          select s.entry, s.line_no, s.amount, s.other, s.day_period as period from ${line} s
          where ${windowLines(place, question, texts).join(' and ')} and s.other is distinct from 0
        ),
        hard as (select * from chosen where other is null),
        whole as (
          select l.entry, l.line_no, l.account, l.amount from ${line} l
          where l.entry in (select entry from hard) and l.amount <> 0 and ${visible('l', question).join(' and ')}
        ),
        sides as (
          select entry, count(*) filter (where amount > 0) as debits, count(*) filter (where amount < 0) as credits,
            coalesce(sum(amount) filter (where amount > 0), 0) as debit, coalesce(-sum(amount) filter (where amount < 0), 0) as credit
          from whole group by entry
        ),
        opposite as (
          select h.entry, h.line_no, h.period, -sign(h.amount)::integer as sign, abs(h.amount)::hugeint as size, w.account, w.line_no as place,
            abs(w.amount)::hugeint as weight, (case when h.amount > 0 then e.credit else e.debit end)::hugeint as total,
            e.debits <= 1 or e.credits <= 1 as exact, case when h.amount > 0 then e.debits else e.credits end as own
          from hard h join sides e on e.entry = h.entry join whole w on w.entry = h.entry and sign(w.amount) = -sign(h.amount)
        ),
        shared as (
          select period, account, exact, sign, place, entry, line_no, (size * weight) // total as part, (size * weight) % total as rest, size
          from opposite where not (own = 1 and size = total)
        ),
        ranked as (
          select period, account, exact, sign, part, row_number() over (partition by entry, line_no order by rest desc, place) as rank,
            size - sum(part) over (partition by entry, line_no) as remaining
          from shared
        )
        select period, abs(other) as account, other > 0 as exact, -amount as amount from chosen where other is not null
        union all
        select period, account, exact, sign * weight as amount from opposite where own = 1 and size = total
        union all
        select period, account, exact, sign * (part + case when rank <= remaining then 1 else 0 end) as amount from ranked
      ) s group by all`;
  });
  return columns.engine.rows<Row>(
    `select entity, period, account, exact, sum(amount)::bigint as amount from (${legs.join(' union all ')}) s group by all`,
    texts.values,
    limitMs,
  );
}
