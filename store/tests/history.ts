import { amountOf, partsOf, plainNumber, type TestSql } from './words';

/** Accounts that do not go on as they did (core/tests/history). */

const YEAR = 12;

export const changed: TestSql<'changed'> = ({ least, percent }, asks) => `
  with now as (
    select per.entity, per.ordinal from per
    join (select entity, max(seq) as last from per where whole and looked group by entity) w on w.entity = per.entity
    where per.whole and per.looked and per.seq > w.last - ${YEAR}
  ),
  moved as (
    select m.entity, m.code, coalesce(sum(m.amount) filter (n.ordinal is not null), 0)::bigint as moved,
      coalesce(sum(m.amount) filter (o.ordinal is not null), 0)::bigint as before
    from m left join now n on n.entity = m.entity and n.ordinal = m.period
      left join now o on o.entity = m.entity and o.ordinal - 100 = m.period
    group by all
  )
  select entity, code as account, moved - before as amount, case when before = 0 then 4 else least(8, log2(1 + abs(moved - before) / abs(before))) end as degree,
    ${partsOf({ moved: 'moved', before: 'before' })}
  from moved where abs(moved - before) >= greatest(1, ${amountOf(least, asks)}) and abs(moved - before) * 100 >= ${plainNumber(percent)} * abs(before)
    and exists (select 1 from per where per.entity = moved.entity and per.looked
      and per.ordinal <= (select min(ordinal) from now n where n.entity = moved.entity) - 100)`;

export const dormant: TestSql<'dormant'> = ({ periods }) => `
  with moves as (
    select s.*, per.seq - lag(per.seq) over g - 1 as silent, lag(s.period) over g as since
    from standing s join per on per.entity = s.entity and per.ordinal = s.period and per.looked
    window g as (partition by s.entity, s.account order by s.period)
  )
  select entity, code as account, period, amount, log2(1 + silent) as degree, ${partsOf({ silent: 'silent', since: 'since' })}
  from moves where within > 0 and silent >= ${plainNumber(periods)}`;

/** The least spread beside the centre, and the factor from the median deviation to the standard deviation. */
const [LEAST_SPREAD, MAD_TO_SD] = [0.01, 1.4826];

export const outOfLine: TestSql<'out-of-line'> = ({ deviations, history, least, by }) => {
  const [centre, spread] =
    by === 'median'
      ? ['median(amount) over w', `${MAD_TO_SD} * mad(amount) over w`]
      : ['avg(amount) over w', 'stddev_samp(amount) over w'];
  return `
  with beside as (
    select *, ${centre} as centre, ${spread} as spread, count(*) over w as before from grid
    window w as (partition by entity, account order by seq rows between ${plainNumber(history)} preceding and 1 preceding)
  ),
  far as (select *, abs(amount - centre) / greatest(spread, abs(centre) * ${LEAST_SPREAD}, 1) as far from beside where whole and before >= ${plainNumber(least)})
  select entity, code as account, ordinal as period, (amount - trunc(centre))::bigint as amount, log2(1 + far / ${plainNumber(deviations)}) as degree,
    ${partsOf({ moved: 'amount', usual: 'trunc(centre)::bigint', deviations: 'trunc(far * 100) / 100', before: 'before' })}
  from far where far > ${plainNumber(deviations)}`;
};

export const missingMonth: TestSql<'missing-month'> = ({ periods }) => `
  with beside as (
    select *, count(*) over w as before, min(lines) over w as fewest, sum(amount) over w as moved from grid
    window w as (partition by entity, account order by seq rows between ${plainNumber(periods)} preceding and 1 preceding)
  )
  select x.entity, x.code as account, ordinal as period, trunc(moved / ${plainNumber(periods)})::bigint as amount, log2(${plainNumber(periods)}) as degree,
    ${partsOf({ before: 'before' })}
  from beside x join a on a.account = x.account where a.temporary and whole and lines = 0 and before = ${plainNumber(periods)} and fewest > 0`;

export const season: TestSql<'season'> = ({ points, years, least }, asks) => `
  with rolled as (
    select *, sum(amount) over w as year, count(*) over w as periods from grid
    window w as (partition by entity, account order by seq rows between ${YEAR - 1} preceding and current row)
  ),
  shares as (
    select t.*, t.amount::double / t.year::double as share from rolled t join a on a.account = t.account and a.temporary
    where periods = ${YEAR} and year <> 0
  ),
  beside as (
    select o.entity, o.code, o.ordinal, o.amount, o.year, o.share, avg(b.share) as usual, count(*) as before
    from shares o join shares b on b.entity = o.entity and b.account = o.account and b.ordinal < o.ordinal and (o.ordinal - b.ordinal) % 100 = 0
    where o.whole and abs(o.year) >= ${amountOf(least, asks, 'o.entity')} group by all
  )
  select entity, code as account, ordinal as period, (amount - trunc(usual * year))::bigint as amount,
    least(8, log2(1 + abs(share - usual) * 100 / ${plainNumber(points)})) as degree,
    ${partsOf({ moved: 'amount', share: 'trunc(share * 100 * 100) / 100', usual: 'trunc(usual * 100 * 100) / 100', years: 'before' })}
  from beside where before >= ${plainNumber(years)} and abs(share - usual) * 100 >= ${plainNumber(points)}`;
