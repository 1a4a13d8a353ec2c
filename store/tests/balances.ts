import { quoted } from '../duck';
import { amountOf, partsOf, type TestSql } from './words';

/** What each account stands at, and what it stood at before (core/tests/balances). */
const STANDINGS = `
  own as (
    select s.entity, s.account, s.code, s.period, s.amount, a.named, case a.normal when 'credit' then -1 else 1 end as sign
    from standing s join a on a.account = s.account join b on b.entity = s.entity
    where not a.retained and (not a.temporary or (s.period + 20000) // 100 = (b.stop + 20000) // 100)
  ),
  stood as (select *, sum(amount) over (partition by entity, account order by period) as balance from own),
  ends as (
    select entity, code, named, sign, arg_max(balance, period)::bigint as balance, count(*) filter (balance * sign > 0) as rights,
      count(*) filter (balance * sign < 0) as wrongs, count(*) filter (balance <> 0) as unsettled
    from stood group by all
  )`;

export const wrongSide: TestSql<'wrong-side'> = ({ least }, asks) => `
  with ${STANDINGS}
  select entity, code as account, balance as amount, log2(1 + rights / wrongs) as degree, ${partsOf({ right: 'rights', wrong: 'wrongs' })}
  from ends where balance * sign < 0 and abs(balance) >= greatest(1, ${amountOf(least, asks)})`;

export const suspense: TestSql<'suspense'> = ({ words }) => `
  with ${STANDINGS}
  select entity, code as account, balance as amount, log2(1 + unsettled) as degree, ${partsOf({ periods: 'unsettled' })}
  from ends where balance <> 0 and (${words.map((w) => `contains(named, ${quoted(w.toLowerCase())})`).join(' or ') || 'false'})`;

export const inactive: TestSql<'inactive-account'> = () => `
  select p.entity, a.code as account, sum(p.amount)::bigint as amount, 2 as degree, ${partsOf({ status: 'any_value(a.status)', lines: 'count(*)' })}
  from p join a on a.account = p.account where p.within and a.status <> 'active' group by p.entity, a.code`;
