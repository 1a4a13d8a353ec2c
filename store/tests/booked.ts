import { quoted } from '../duck';
import { entryHits, partsOf, plainNumber, rarityOf, type TestSql } from './words';

/** Entries that do not say, or do not do, what entries should (core/tests/booked). */

export const noDescription: TestSql<'no-description'> = () =>
  entryHits(
    rarityOf('j.some', 'j.every'),
    { journal: 'e.journal', some: 'j.some', all: 'j.every' },
    `e join (select entity, journal, count(*) as every, count(*) filter (silent) as some from e group by all) j
       on j.entity = e.entity and j.journal = e.journal where e.silent`,
  );

export const listedWords: TestSql<'words'> = ({ words }) => {
  if (words.length === 0) return `${entryHits('0', {}, 'e where false')}`;
  const said = words.map((w) => `bool_or(contains(said, ${quoted(w.toLowerCase())}))`);
  const found = words.map((w, i) => `case when w${i} then ${quoted(w)} end`);
  const any = words.map((_, i) => `w${i}`);
  return entryHits(
    `(${any.map((w) => `o.${w}::integer`).join(' + ')})`,
    {
      words: `concat_ws(', ', ${found.map((f) => f.replace('when w', 'when o.w')).join(', ')})`,
      said: 'e.description',
    },
    `e join (
       select entity, entry, ${said.map((sql, i) => `${sql} as w${i}`).join(', ')} from (
         select entity, entry, lower(coalesce(description, '')) as said from p where within
         union all select entity, entry, lower(description) from e where within
       ) group by entity, entry having ${any.join(' or ')}
     ) o on o.entity = e.entity and o.entry = e.entry where true`,
  );
};

export const unbalanced: TestSql<'unbalanced'> = () =>
  entryHits(
    'case when e.net = 0 then 1 else 6 end',
    { net: 'e.net', lines: 'e.lines' },
    'e where (e.net <> 0 or e.lines = 1)',
    'e.net',
  );

/** Entries that another says it takes back. */
const UNDONE = 'undone as (select distinct entity, reversal_of as number from e where reversal_of is not null)';

export const notReversed: TestSql<'not-reversed'> = () => `
  with ${UNDONE},
  firsts as (
    select e.*, u.number is not null as reversed from e left join undone u on u.entity = e.entity and u.number = e.number
    where e.reversal_of is null and e.description <> ''
  ),
  beside as (select *, count(*) over g as every, count(*) filter (reversed) over g as others from firsts window g as (partition by entity, journal, description))
  select x.entity, x.entry as entry_id, x.number as entry, x.total as amount, 2 + log2(1 + others) as degree,
    ${partsOf({ reversed: 'others', all: 'every', said: 'x.description' })}
  from beside x join b on b.entity = x.entity
  where within and not reversed and x.last_period < b.stop and others > 0 and others * 2 >= every`;

export const reversedSoon: TestSql<'reversed-soon'> = ({ days }) => `
  with back as (
    select e.entity, e.entry, e.number, e.person, e.total, e.within, y.number as undoing, y.entry as undoing_entry, date_diff('day', e.day, y.day) as apart
    from e join e y on y.entity = e.entity and y.reversal_of = e.number and y.number <> e.number
    where y.first_period > e.last_period and date_diff('day', e.day, y.day) between 0 and ${plainNumber(days)}
    qualify row_number() over (partition by e.entity, e.number order by apart, undoing) = 1
  ),
  beside as (select *, count(*) over (partition by entity, person) as soon from back)
  select x.entity, x.entry as entry_id, x.number as entry, x.total as amount, x.entry || ',' || x.undoing_entry as entries,
    ${rarityOf('soon', 'o.every')} / 2 as degree, ${partsOf({ by: 'undoing', apart: 'apart', person: 'x.person' })}
  from beside x join (select entity, person, count(*) as every from e group by all) o
    on o.entity = x.entity and o.person is not distinct from x.person
  where within`;

export const missingDimension: TestSql<'missing-dimension'> = () => `
  select p.entity, p.code as account, r.dimension as other, p.entry as entry_id, any_value(p.number) as entry, 1 as degree,
    sum(p.amount)::bigint as amount, ${partsOf({ rule: 'any_value(r.rule)', lines: 'count(*)' })}
  from p join r on r.account = p.account
  where p.within and not p.opening and (r.rule = 'required') = (case r.slot ${Array.from({ length: 8 }, (_, i) => `when ${i + 1} then p.d${i + 1}`).join(' ')} end = 0)
  group by p.entity, p.code, r.dimension, p.entry`;

export const changedLines: TestSql<'changed-lines'> = () => `
  with odd as (
    select g.entity, g.number, abs(g.amount - coalesce(p.amount, 0)) as amount, p.entry is null as removed, p.entry
    from gone g left join p on p.entity = g.entity and p.number = g.number and p.line_no = g.line_no
    where p.entry is null or p.account <> g.account or p.amount <> g.amount or p.period <> g.period or p.day <> g.day
      or coalesce(p.description, '') <> coalesce(g.description, '')
  )
  select odd.entity, odd.number as entry, (select any_value(entry) from p where p.entity = odd.entity and p.number = odd.number) as entry_id,
    case when bool_or(removed) then 3 else 2 end as degree, sum(amount)::bigint as amount,
    ${partsOf({ removed: 'count(*) filter (removed)', changed: 'count(*) filter (not removed)' })}
  from odd group by odd.entity, odd.number`;
