import { SETTLING } from '@/core/openItems';
import { KIND } from './codes';
import { booksChanged } from './columns/manifest';
import { type Db, NEVER, rowsOf } from './db';
import { openEntity, SUMMARIES } from './layers';
import { openYear } from './yearTables';

/** The further entries of a company by which its books are on the cash basis. */
export interface CashBooks {
  entity: number;
  /** Number under which their lines are kept. */
  books: number;
  /** The load as of which they are there first. */
  since: number;
}

export const cashBooks = (db: Db): Promise<CashBooks[]> =>
  rowsOf(db, 'select entity, books, since from cash_books order by entity');

/** Makes room for the further entries of a company. @returns null where it has them already */
export async function openCashBooks(db: Db, entity: number, since: number): Promise<CashBooks | null> {
  const [made] = await rowsOf<CashBooks>(
    db,
    `insert into cash_books (entity, books, since) select ?, nextval(pg_get_serial_sequence('entity', 'id')), ?
     where not exists (select from cash_books where entity = ?) returning entity, books, since`,
    [entity, since, entity],
  );
  if (!made) return null;
  await openEntity(db, made.books);
  return made;
}

/** Documents that cannot be on the cash basis, with why, as of a load. */
export const cashGaps = (
  db: Db,
  entity: number,
  asOf: number,
  limit: number,
): Promise<{ document: string; reason: string }[]> =>
  rowsOf(
    db,
    `select document, reason from cash_gap where entity = ? and load <= ? and replaced_by > ? order by document limit ?`,
    [entity, asOf, asOf, limit],
  );

/** Whether a day is of a period, and of which. */
type PeriodOf = (day: string) => number | null;

/**
 * Converts documents to the cash basis (method.md §15): the lines of the entry that a document came with are taken out on
 * its own day, and brought in on each day on which it was settled, in proportion to what of it was. Every entry that is
 * made balances; what rounding leaves is the largest line's. What was made for these documents before gives way.
 * @param which all documents, or those that a load touched
 * @param currency of the books
 */
export async function convertToCash(
  db: Db,
  { entity, books }: CashBooks,
  load: number,
  which: 'all' | 'of the load',
  currency: string,
  periodOf: PeriodOf,
): Promise<{ documents: number; gaps: number }> {
  return withTables(db, async () => {
    await (which === 'all' ? everyDocument(db, entity) : touchedDocuments(db, entity, load));
    await takeOut(db, entity, books, load);
    await findOrigins(db, entity, currency);
    await findParts(db, entity);
    await findSettlements(db, entity, periodOf);
    await addEntries(db, entity, books, load);
    await addLines(db, books, load);
    await addSums(db, books, load);
    await booksChanged(db, [books], true);
    return keepGaps(db, entity, load);
  });
}

const TABLES = ['cash_doc', 'cash_out', 'cash_origin', 'cash_part', 'cash_event', 'cash_new'];

/** What is worked out on the way is in tables that go with it. */
async function withTables<Found>(db: Db, work: () => Promise<Found>): Promise<Found> {
  const drop = (): Promise<unknown> => db.raw(`drop table if exists ${TABLES.map((t) => `pg_temp.${t}`).join(', ')}`);
  await drop();
  const found = await work();
  await drop();
  return found;
}

const everyDocument = (db: Db, entity: number): Promise<unknown> =>
  db.raw(
    `create temp table cash_doc as
     select number from document where entity = ? and replaced_by = ${NEVER}
     union select document from cash_entry where entity = ? and replaced_by = ${NEVER}`,
    [entity, entity],
  );

/** Documents that a load brought, applied something to or took away, and those of lines that it brought or replaced. */
const touchedDocuments = (db: Db, entity: number, load: number): Promise<unknown> =>
  db.raw(
    `create temp table cash_doc as
     select number from document where entity = :entity and (load = :load or replaced_by = :load)
     union select source from document_link where entity = :entity and (load = :load or replaced_by = :load)
     union select l.document from line l where l.entity = :entity and l.document is not null
       and l.entry in (select id from entry where entity = :entity and load = :load)
     union select l.document from load o join line l on l.entity = :entity and l.period between o.replaces_from and o.replaces_to
       where o.id = :load and l.document is not null and l.replaced_by = :load`,
    { entity, load },
  );

/** Entries that were made for these documents before count no more from this load on. */
async function takeOut(db: Db, entity: number, books: number, load: number): Promise<void> {
  await db.raw(
    `create temp table cash_out as select c.entry from cash_entry c join cash_doc d on d.number = c.document
     where c.entity = ? and c.replaced_by = ${NEVER}`,
    [entity],
  );
  const gone = `entity = ${Number(books)} and entry in (select entry from cash_out) and replaced_by = ${NEVER}`;
  await addSumsOf(db, load, gone, -1);
  await db.raw(`update line set replaced_by = ? where ${gone}`, [load]);
  await db.raw('update entry set replaced_by = ? where id in (select entry from cash_out)', [load]);
  await db.raw('update cash_entry set replaced_by = ? where entry in (select entry from cash_out)', [load]);
  await db.raw(
    `update cash_gap set replaced_by = ? where entity = ? and document in (select number from cash_doc) and replaced_by = ${NEVER}`,
    [load, entity],
  );
}

/**
 * The entry that each document came with: the first in which its lines on the control account come to its amount, on the
 * side on which what is owed stands. Documents that are on no control account, such as orders, owe nothing.
 */
const findOrigins = (db: Db, entity: number, currency: string): Promise<unknown> =>
  db.raw(
    `create temp table cash_origin as
     with doc as (
       select d.number, d.amount, d.currency, a.id as account, a.type
       from cash_doc c join document d on d.entity = :entity and d.number = c.number and d.replaced_by = ${NEVER}
       left join document_control k on k.entity = :entity and k.number = d.number
       join account a on a.id = coalesce(d.account, k.account)
       where d.type !~* :settling and d.amount <> 0),
     control as (
       select d.number, l.entry, min(l.day) as day, sum(l.amount) as amount, bool_or(l.kind = ${KIND.opening}) as opened,
         sum(l.currency_amount) filter (where l.currency = d.currency) as foreign_amount
       from doc d join line l on l.entity = :entity and l.account = d.account and l.document = d.number and l.replaced_by = ${NEVER}
       group by 1, 2),
     fitting as (
       select distinct on (c.number) c.* from control c join doc d on d.number = c.number
       where abs(case when d.currency = :currency then c.amount else c.foreign_amount end) = d.amount
         and not (d.type = 'asset' and c.amount < 0) and not (d.type = 'liability' and c.amount > 0)
       order by c.number, c.day, c.entry),
     sharing as (
       select f.entry, count(distinct l.document) as documents
       from (select distinct entry from fitting) f join line l on l.entity = :entity and l.entry = f.entry and l.replaced_by = ${NEVER}
       where l.document is not null and l.account in (select account from doc) group by 1)
     select d.number, d.amount as total, d.account, f.entry, coalesce(s.documents, 0) as documents,
       case when f.opened then 'it came with the opening balances'
         when f.entry is null then 'no entry with its number comes to its amount' end as gap
     from doc d left join fitting f on f.number = d.number left join sharing s on s.entry = f.entry`,
    { entity, currency, settling: SETTLING.source },
  );

/** The lines of each document's entry: all of them, or where several documents share it those that bear its number. */
async function findParts(db: Db, entity: number): Promise<void> {
  await db.raw(
    `create temp table cash_part as
     select o.number, o.total, l.*, l.account = o.account and l.document = o.number as owed
     from cash_origin o join line l on l.entity = ? and l.entry = o.entry and l.replaced_by = ${NEVER}
     where o.gap is null and (o.documents <= 1 or l.document = o.number)`,
    [entity],
  );
  await db.raw(
    `update cash_origin set gap = 'its entry is shared with other documents, and its lines do not balance by themselves'
     where number in (select number from cash_part group by 1 having sum(amount) <> 0)`,
  );
  await db.raw('delete from cash_part where number in (select number from cash_origin where gap is not null)');
}

/** The days on which each document was settled, with how much of it was before and is after; no more than it comes to. */
async function findSettlements(db: Db, entity: number, periodOf: PeriodOf): Promise<void> {
  await db.raw(
    `create temp table cash_event as
     select number, date, null::smallint as period, total, by_what, least(total, upto) as upto, least(total, upto - applied) as before, upto > total as over
     from (
       select o.number, k.date, o.total, sum(k.applied) as applied, string_agg(distinct k.target, ', ') as by_what,
         sum(sum(k.applied)) over (partition by o.number order by k.date) as upto
       from cash_origin o join document_link k on k.entity = ? and k.source = o.number and k.replaced_by = ${NEVER}
       where o.gap is null group by 1, 2, 3) s`,
    [entity],
  );
  const days = (await rowsOf<{ date: string }>(db, 'select distinct date from cash_event')).map(({ date }) => date);
  const periods = days.map((day) => periodOf(day));
  await rowsOf(
    db,
    `update cash_event e set period = p.period
     from unnest(?::date[], ?::smallint[]) p(date, period) where p.date = e.date`,
    [days, periods],
  );
}

/** One entry for what is not settled of a document yet, and one for each day on which it was. */
async function addEntries(db: Db, entity: number, books: number, load: number): Promise<void> {
  await db.raw(
    `create temp table cash_new as
     select nextval(pg_get_serial_sequence('entry', 'id'))::integer as entry, n.* from (
       select o.number as document, null::date as date,
         concat_ws(' ', e.number, nullif(o.number, e.number), 'not settled') as number, e.journal, o.total,
         concat('Taken out until it is settled: document ', o.number) as description, 0::numeric as before, o.total::numeric as upto, null::smallint as period
       from cash_origin o join entry e on e.id = o.entry where o.gap is null
       union all
       select o.number, s.date, concat_ws(' ', e.number, nullif(o.number, e.number), 'settled', s.date), e.journal, o.total,
         concat('Settled on this day by ', s.by_what, ': document ', o.number), s.before, s.upto, s.period
       from cash_event s join cash_origin o on o.number = s.number join entry e on e.id = o.entry
       where s.period is not null and s.upto > s.before) n`,
  );
  await db.raw(
    `insert into entry (id, entity, load, number, journal, description) overriding system value
     select entry, ?, ?, number, journal, description from cash_new`,
    [books, load],
  );
  await db.raw('insert into cash_entry (entry, entity, document, load) select entry, ?, document, ? from cash_new', [
    entity,
    load,
  ]);
}

/** Years of which the books have no lines yet get a place for them. */
async function openYears(db: Db, books: number): Promise<void> {
  const years = await rowsOf<{ year: number }>(
    db,
    `select distinct floor(p.period / 100.0)::integer + 2000 as year
     from (select period from cash_part union select period from cash_new where period is not null) p`,
  );
  for (const { year } of years) await openYear(db, { entity: books, year });
}

const DIMS = 'd1, d2, d3, d4, d5, d6, d7, d8';

async function addLines(db: Db, books: number, load: number): Promise<void> {
  await openYears(db, books);
  const kept = `journal, account, counterparty, posted_by, ${DIMS}, document, currency, description, extra`;
  const share = (amount: string): string =>
    `round(${amount}::numeric * n.upto / n.total) - round(${amount}::numeric * n.before / n.total)`;
  await db.raw(
    `insert into line (entity, load, entry, entry_number, line_no, period, day_period, day, posting_date, status, kind, side, amount, currency_amount, ${kept})
     with shares as (
       select n.entry, n.number as entry_number, p.line_no, p.status, p.side, p.owed, abs(p.amount) as size,
         case when n.date is null then p.period else n.period end as period,
         case when n.date is null then p.day_period else n.period end as day_period,
         coalesce(n.date, p.day) as day, coalesce(n.date, p.posting_date) as posting_date,
         case when n.date is not null and p.kind = ${KIND.adjustment} then ${KIND.normal} else p.kind end as kind,
         case when n.date is null then -p.amount else ${share('p.amount')} end as amount,
         case when n.date is null then -p.currency_amount else ${share('p.currency_amount')} end as currency_amount,
         ${kept
           .replace('document', 'n.document')
           .replace(', extra', ", p.extra - 'tax_amount' as extra")
           .replace(/\b(journal|account|counterparty|posted_by|currency|description|d\d)\b/g, 'p.$1')}
       from cash_new n join cash_part p on p.number = n.document),
     settled as (
       select *, -sum(amount) over (partition by entry) as rest,
         row_number() over (partition by entry order by owed, size desc, line_no) as rank
       from shares)
     select ?, ?, entry, entry_number, line_no, period, day_period, day, posting_date, status, kind, side,
       (amount + case when rank = 1 then rest else 0 end)::bigint, currency_amount::bigint, ${kept}
     from settled where amount + case when rank = 1 then rest else 0 end <> 0`,
    [books, load],
  );
}

const addSums = (db: Db, books: number, load: number): Promise<void> =>
  addSumsOf(db, load, `entity = ${Number(books)} and entry in (select entry from cash_new)`, 1);

/** Adds what lines come to to the summaries, as of a load; of lines that go, with the other sign. */
async function addSumsOf(db: Db, load: number, which: string, sign: 1 | -1): Promise<void> {
  const sums = `${sign} * count(*), ${sign} * coalesce(sum(amount) filter (where side = 1), 0), ${sign} * coalesce(-sum(amount) filter (where side <> 1), 0)`;
  const slots = await rowsOf<{ slot: number }>(db, 'select slot from dimension order by slot');
  for (const [table, keys] of SUMMARIES) {
    const ofSlot = (slot: number | null): string =>
      slot === null ? keys : keys.replace('slot, member', `${Number(slot)} as slot, d${Number(slot)} as member`);
    for (const slot of table === 'balance_member' ? slots.map((s) => s.slot) : [null])
      await db.raw(
        `insert into ${table} (${keys}, load, count, debit, credit)
         select ${ofSlot(slot)}, ?, ${sums} from line where ${which} group by ${keys
           .split(',')
           .map((_, i) => i + 1)
           .join(', ')}`,
        [load],
      );
  }
}

/** What cannot be converted, and what was settled by more than it comes to or on a day of no period. */
async function keepGaps(db: Db, entity: number, load: number): Promise<{ documents: number; gaps: number }> {
  const gaps = await rowsOf(
    db,
    `insert into cash_gap (load, entity, document, reason)
     select ?, ?, number, gap from (
       select number, gap from cash_origin where gap is not null
       union all select distinct number, 'more was applied to it than it comes to' from cash_event where over
       union all select distinct number, 'it was settled on a day that the calendar does not have' from cash_event where period is null) g
     returning 1`,
    [load, entity],
  );
  const [converted] = await rowsOf<{ n: number }>(
    db,
    'select count(*)::integer as n from cash_origin where gap is null',
  );
  return { documents: converted?.n ?? 0, gaps: gaps.length };
}
