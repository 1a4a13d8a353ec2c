import { quoted } from '../duck';
import { entryHits, partsOf, plainNumber, rarityOf, type TestSql } from './words';

/** Who books what where (core/tests/people). */

export const manual: TestSql<'manual'> = ({ words }) => {
  const named = words.map((w) => quoted(w.toLowerCase()));
  const any = named.flatMap((w) => [`lower(e.journal) = ${w}`, `contains(lower(coalesce(e.source, '')), ${w})`]);
  return entryHits(
    '0',
    { journal: 'e.journal', source: 'e.source', person: 'e.person' },
    `e where (${any.join(' or ') || 'false'})`,
  );
};

export const rarePerson: TestSql<'rare-person'> = ({ entries, others }) =>
  entryHits(
    `${rarityOf('o.own', 'n.every')} / 2`,
    { person: 'e.person', own: 'o.own', of: 'n.every' },
    `e join (select entity, person, count(*) as own from e group by all) o on o.entity = e.entity and o.person = e.person
       join (select entity, count(*) as every from e group by all) n on n.entity = e.entity
     where o.own <= ${plainNumber(entries)} and n.every >= ${plainNumber(others)}`,
  );

export const ownApproval: TestSql<'own-approval'> = () =>
  entryHits('1', { person: 'e.person' }, 'e where e.person = e.approved_by');

export const rarePoster: TestSql<'rare-poster'> = ({ lines, expected }) => `
  with own as (
    select entity, code, person, count(*) as own, count(*) filter (within) as within, coalesce(sum(amount) filter (within), 0)::bigint as amount
    from p where not opening and person is not null group by all
  ),
  beside as (
    select *, sum(own) over (partition by entity, person) as theirs, sum(own) over (partition by entity, code) as there,
      sum(own) over (partition by entity) as every
    from own
  )
  select entity, code as account, person, amount, log2(theirs * there / every / own) / 2 as degree,
    ${partsOf({ own: 'own', there: 'there::bigint', theirs: 'theirs::bigint' })}
  from beside where within > 0 and own <= ${plainNumber(lines)} and theirs * there / every >= ${plainNumber(expected)}`;

export const rarePair: TestSql<'rare-pair'> = ({ entries, lines }) => `
  with sides as (
    select p.entity, p.entry, list(distinct p.code) filter (p.amount > 0) as debits, list(distinct p.code) filter (p.amount < 0) as credits
    from p semi join e on e.entity = p.entity and e.entry = p.entry group by all
    having len(debits) = 1 or len(credits) = 1
  ),
  half as (select entity, entry, unnest(debits) as account, credits from sides),
  met as (select entity, entry, account, unnest(credits) as other from half),
  pairs as (select entity, account, other, count(*) as together from met group by all),
  used as (select entity, code, count(*) as lines from p where not opening group by all),
  rare as (
    select pairs.*, least(one.lines, two.lines) as fewer from pairs
    join used one on one.entity = pairs.entity and one.code = pairs.account
    join used two on two.entity = pairs.entity and two.code = pairs.other
    where together <= ${plainNumber(entries)} and account <> other and least(one.lines, two.lines) >= ${plainNumber(lines)}
  )
  select e.entity, e.entry as entry_id, e.number as entry, r.account, r.other, e.total as amount, log2(r.fewer / r.together) / 2 as degree,
    ${partsOf({ together: 'r.together', fewer: 'r.fewer' })}
  from rare r join met on met.entity = r.entity and met.account = r.account and met.other = r.other
    join e on e.entity = met.entity and e.entry = met.entry where e.within`;

export const unusualAccount: TestSql<'unusual-account'> = ({ lines, usual }) => `
  with own as (
    select p.entity, p.code, p.party, count(*) as own, count(*) filter (p.within) as within,
      coalesce(sum(p.amount) filter (p.within), 0)::bigint as amount
    from p join a on a.account = p.account and a.temporary where not p.opening and p.party is not null group by all
  ),
  beside as (select *, sum(own) over (partition by entity, party) - own as others from own)
  select entity, code as account, party, amount, log2(others / own) / 2 as degree, ${partsOf({ own: 'own', others: 'others::bigint' })}
  from beside where within > 0 and own <= ${plainNumber(lines)} and others >= ${plainNumber(usual)}`;
