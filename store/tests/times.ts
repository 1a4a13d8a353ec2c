import { RUNNING_DIGITS } from '@/core/entryNumbers';
import { weekdayNumbers } from '@/core/tests/times';
import { entryHits, partsOf, plainNumber, rarityOf, type TestSql, texts } from './words';

/** Entries of days and hours on which nobody usually books (core/tests/times). */

const onDays = (isOne: (day: string) => string): string =>
  entryHits(
    rarityOf('j.some', 'j.every'),
    { day: 'e.day::varchar', journal: 'e.journal', some: 'j.some', all: 'j.every' },
    `e join (select entity, journal, count(*) as every, count(*) filter (${isOne('day')}) as some from e group by all) j
       on j.entity = e.entity and j.journal = e.journal where ${isOne('e.day')}`,
  );

export const weekend: TestSql<'weekend'> = ({ days }) =>
  onDays((day) => `dayofweek(${day}) in (${weekdayNumbers(days).join(', ') || '-1'})`);

export const holiday: TestSql<'holiday'> = ({ days }) =>
  onDays((day) => `(${day}::varchar in ${texts(days)} or strftime(${day}, '%m-%d') in ${texts(days)})`);

const HOUR = `try_cast(regexp_extract(e.entered_at, '^[0-9]{4}-[0-9][0-9]-[0-9][0-9][T ]([0-9][0-9]):', 1) as integer)`;
export const hourSql = HOUR;

export const outOfHours: TestSql<'out-of-hours'> = ({ from, to }) => {
  const [first, end] = [plainNumber(from), plainNumber(to)];
  return entryHits(
    `log2(1 + case when ${HOUR} < ${first} then ${first} - ${HOUR} else ${HOUR} - ${end} + 1 end)`,
    { entered: 'e.entered_at', person: 'e.person' },
    `e where ${HOUR} is not null and not (${HOUR} >= ${first} and ${HOUR} < ${end})`,
  );
};

/** The day on which an entry was entered; null where the file says none. */
export const enteredDay = `(case when regexp_full_match(left(e.entered_at, 10), '[0-9]{4}-[0-9]{2}-[0-9]{2}') then try_cast(left(e.entered_at, 10) as date) end)`;

export const enteredLate: TestSql<'entered-late'> = ({ days }) => {
  const late = `date_diff('day', e.day, ${enteredDay})`;
  return entryHits(
    `log2(${late} / ${plainNumber(days)})`,
    { day: 'e.day::varchar', entered: 'left(e.entered_at, 10)', late },
    `e where ${late} > ${plainNumber(days)}`,
  );
};

export const datedAhead: TestSql<'dated-ahead'> = ({ days }) => {
  const ahead = `date_diff('day', ${enteredDay}, e.day)`;
  return entryHits(
    `log2(${ahead} / ${plainNumber(days)})`,
    { day: 'e.day::varchar', entered: 'left(e.entered_at, 10)', ahead },
    `e where ${ahead} > ${plainNumber(days)}`,
  );
};

const MONTH = 30;
const outside = (day: string): string =>
  `greatest(0, date_diff('day', ${day}, per.starts), date_diff('day', per.stops, ${day}))`;

export const outsidePeriod: TestSql<'outside-period'> = () =>
  entryHits(
    `log2(1 + o.days / ${MONTH})`,
    { days: 'o.days', period: 'o.period', day: 'o.day::varchar' },
    `e join (
       select p.entity, p.entry, p.period, p.day, ${outside('p.day')} as days
       from p join per on per.entity = p.entity and per.ordinal = p.period and not per.adjustment where p.within
       qualify row_number() over (partition by p.entity, p.entry order by days desc, p.period) = 1
     ) o on o.entity = e.entity and o.entry = e.entry where o.days > 0`,
  );

const DOCUMENT_DAY = `(case when regexp_full_match(p.document_date, '[0-9]{4}-[0-9]{2}-[0-9]{2}') then try_cast(p.document_date as date) end)`;

export const cutOff: TestSql<'cut-off'> = ({ days }) =>
  entryHits(
    `log2(1 + o.away / ${MONTH})`,
    { document: 'o.document', period: 'o.period', away: 'o.away' },
    `e join (
       select p.entity, p.entry, p.period, p.document_date as document, ${outside(DOCUMENT_DAY)} as away,
         sum(p.amount) over (partition by p.entity, p.entry)::bigint as amount
       from p join a on a.account = p.account and a.temporary
         join per on per.entity = p.entity and per.ordinal = p.period and not per.adjustment
       where p.within and ${DOCUMENT_DAY} is not null and ${outside(DOCUMENT_DAY)} > ${plainNumber(days)}
       qualify row_number() over (partition by p.entity, p.entry order by away desc, document) = 1
     ) o on o.entity = e.entity and o.entry = e.entry where true`,
    'o.amount',
  );

/** What numbers begin with and end in; no digits at the end of those of no series. */
export const RUNNING = (number: string): string => `regexp_extract(${number}, '[0-9]{1,${RUNNING_DIGITS}}$')`;

export const outOfOrder: TestSql<'out-of-order'> = ({ days }) => `
  with numbered as (
    select *, ${RUNNING('number')} as digits from e
  ),
  beside as (
    select *, date_diff('day', lag(day) over s, day) as one, date_diff('day', lead(day) over s, day) as other,
      lag(number) over s as before, lead(number) over s as after
    from numbered where digits <> ''
    window s as (partition by entity, left(number, length(number) - length(digits)), length(number) order by digits::bigint)
  ),
  far as (select *, least(abs(one), abs(other)) as far from beside where sign(one) = sign(other))
  select entity, entry as entry_id, number as entry, log2(far / ${plainNumber(days)}) as degree, total as amount,
    ${partsOf({ day: 'day::varchar', before: 'before', after: 'after', far: 'far' })}
  from far where within and far > ${plainNumber(days)}`;
