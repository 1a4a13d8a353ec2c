import { gapHits } from '@/core/tests/series';
import type { Hit } from '@/core/tests/test';
import { RUNNING } from './times';
import { type Asks, partsOf, plainNumber, type TestSql } from './words';

/** What seems to be there a second time, or is missing (core/tests/twice, series). */

export const twice: TestSql<'twice'> = ({ days }) => `
  with one as (select * from e where party is not null and total > 0),
  undone as (select distinct entity, reversal_of as number from one where reversal_of is not null),
  standing as (
    select * from one where reversal_of is null and not exists (select 1 from undone u where u.entity = one.entity and u.number = one.number)
  ),
  beside as (
    select *, date_diff('day', lag(day) over g, day) as apart, lag(document) over g as earlier,
      count(*) over (partition by entity, party, journal, total) as every, row_number() over g as place
    from standing window g as (partition by entity, party, journal, total order by day, number)
  ),
  linked as (select *, apart is not null and apart <= ${plainNumber(days)} as linked from beside where every > 1),
  runs as (
    select *, count(*) filter (not linked) over (partition by entity, party, journal, total order by place) as run from linked
  ),
  found as (
    select entity, party, total, any_value(every) as every, count(*) as times, min(apart) filter (linked) as closest,
      coalesce(bool_or(document <> earlier and length(document) > 2 and length(earlier) > 2 and levenshtein(document, earlier) <= 1) filter (linked), false) as alike,
      list(number order by place) as numbers, list(document order by place) as documents, string_agg(entry::varchar, ',') as entries
    from runs group by entity, party, journal, total, run having count(*) > 1 and bool_or(within)
  )
  select entity, party, numbers[1] as entry, total as amount, entries,
    greatest(0, log2((${plainNumber(days)} + 1) / (closest + 1)) + case when alike then 4 else 0 end - log2(every / 2)) as degree,
    ${partsOf({ times: 'times', closest: 'closest', all: 'every', documents: "case when alike then coalesce(documents[1], 'null') || ' and ' || coalesce(documents[2], 'null') end" })}
  from found`;

export const sameDocument: TestSql<'same-document'> = () => `
  with undone as (select distinct entity, reversal_of as number from p where reversal_of is not null),
  invoices as (
    select * from p where not opening and document is not null and document_type = 'invoice' and party is not null and amount <> 0
      and reversal_of is null and not exists (select 1 from undone u where u.entity = p.entity and u.number = p.number)
  ),
  found as (
    select entity, document, party, code, sign(amount) as side, sum(amount)::bigint as amount, count(distinct entry) as times,
      string_agg(distinct entry::varchar, ',') as entries
    from invoices group by all having count(distinct entry) > 1 and bool_or(within)
  )
  select entity, document, party, code as account, amount, entries, 3 + log2(times) as degree, ${partsOf({ times: 'times' })}
  from found qualify row_number() over (partition by entity, document, party, code order by amount desc) = 1`;

export const partiesAlike: TestSql<'parties-alike'> = () => `
  with used as (
    select entity, party, sum(greatest(0, amount))::bigint as amount from p where within and not opening and party is not null group by all
  )
  select one.entity, alike.party, alike.other, one.amount, case when alike.account is null then 1 else 5 end as degree,
    ${partsOf({ account: 'alike.account' })}
  from alike join used one on one.party = alike.party join used two on two.party = alike.other and two.entity = one.entity`;

interface GapRow {
  entity: string;
  beginning: string;
  length: number;
  count: number;
  from: number;
  to: number;
  before: number;
}

export const gaps: TestSql<'gaps'> = ({ numbers }, asks) => ({ hits: missingNumbers(numbers, asks) });

async function missingNumbers(least: number, asks: Asks): Promise<Hit[]> {
  const of = { entries: 'number', invoices: 'document' };
  const found: Hit[] = [];
  for (const [other, column] of Object.entries(of)) {
    const rows = await asks.rows<GapRow>(`
      with numbers as (
        select distinct entity, ${column} as number from p
        where within and not opening ${column === 'document' ? `and document is not null and document_type = 'invoice'` : ''}
      ),
      running as (select *, ${RUNNING('number')} as digits from numbers),
      placed as (
        select entity, left(number, length(number) - length(digits)) as beginning, length(number) as length, digits::bigint as place
        from running where digits <> ''
      ),
      beside as (
        select *, lag(place) over s as earlier, row_number() over s - 1 as before, count(*) over (partition by entity, beginning, length) as count
        from placed window s as (partition by entity, beginning, length order by place)
      )
      select entity, beginning, length, count, earlier + 1 as "from", place - 1 as "to", before from beside
      where count >= ${plainNumber(least)} and earlier is not null and place > earlier + 1
      qualify count(*) over (partition by entity, beginning, length) <= greatest(3, count // 20) order by entity, beginning, length, place`);
    const series = new Map<string, GapRow[]>();
    for (const row of rows) {
      const key = `${row.entity}\n${row.beginning}\n${row.length}`;
      const held = series.get(key);
      if (held) held.push(row);
      else series.set(key, [row]);
    }
    for (const own of series.values()) {
      const [{ entity, beginning, length, count }] = own as [GapRow];
      found.push(...gapHits({ entity, other, beginning, length, count }, own));
    }
  }
  return found;
}
