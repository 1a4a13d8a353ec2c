import type { Method, SampledOf } from '@/contracts/work';
import type { Minor } from '@/core/money';
import { type Db, rowsOf } from './db';
import { linesFrom } from './figureSql';
import { asStored, type Question } from './question';

/** Audit samples, as they were drawn and as they are worked at. */

/** Something that could be drawn, or was. */
export interface DrawnItem {
  books: number;
  /** Number of the entry or of the document. */
  number: string;
  line: number | null;
  label: string;
  day: string;
  amount: Minor;
  stratum: number | null;
  certain: boolean;
}

export interface SampleItemRow {
  no: number;
  subject: string;
  label: string;
  day: string;
  amount: Minor;
  stratum: number | null;
  certain: boolean;
  replaces: number | null;
  why: string | null;
  found: Minor | null;
  attributes: Record<string, boolean>;
  note: string;
  tested_by: number | null;
  tester: string | null;
  tested_at: Date | null;
}

export interface SampleWords {
  title: string;
  of: SampledOf;
  method: Method;
  seed: string;
  params: Record<string, unknown>;
  population: Population & { strata?: StratumOf[] };
  currency: string;
  interval: Minor | null;
  attributes: string[];
  conclusion: string;
}

/** What is drawn from. */
export interface Population {
  count: number;
  /** Σ of amounts, with their signs: the movement of the figure. */
  net: Minor;
  /** Σ of amounts without their signs. */
  value: Minor;
  zeros: number;
  debits: number;
  debit: Minor;
  credits: number;
  credit: Minor;
}

export interface StratumOf {
  /** Least amount, without sign; the first has none below it. */
  from: Minor;
  count: number;
  value: Minor;
}

const ITEMS: Record<SampledOf, (from: string) => string> = {
  lines: (from) =>
    `select s.entity as books, s.entry_number as number, s.line_no as line, coalesce(nullif(s.description, ''), s.entry_number) as label,
       s.day, s.amount ${from}`,
  entries: (from) =>
    `select s.entity as books, s.entry_number as number, null::integer as line, min(coalesce(nullif(s.description, ''), s.entry_number)) as label,
       min(s.day) as day, sum(s.amount)::bigint as amount ${from} group by s.entity, s.entry, s.entry_number`,
  documents: (from) =>
    `select s.entity as books, s.document as number, null::integer as line, min(coalesce(nullif(s.description, ''), s.document)) as label,
       min(s.day) as day, sum(s.amount)::bigint as amount ${from} and s.document is not null group by s.entity, s.document`,
};
/** The order in which items stand, which every draw goes through. */
const ORDER = 'day, number, books, line';

/** The items of a figure as a table expression, with what it is bound to. */
function itemsOf(question: Question, of: SampledOf): { sql: string; bindings: unknown[] } {
  const { sql, bindings } = linesFrom(asStored(question));
  return { sql: ITEMS[of](sql), bindings };
}

export async function populationOf(db: Db, question: Question, of: SampledOf): Promise<Population> {
  const { sql, bindings } = itemsOf(question, of);
  const [row] = await rowsOf<Population>(
    db,
    `select count(*)::integer as count, coalesce(sum(amount), 0)::bigint as net, coalesce(sum(abs(amount)), 0)::bigint as value,
       count(*) filter (where amount = 0)::integer as zeros,
       count(*) filter (where amount > 0)::integer as debits, coalesce(sum(amount) filter (where amount > 0), 0)::bigint as debit,
       count(*) filter (where amount < 0)::integer as credits, coalesce(sum(amount) filter (where amount < 0), 0)::bigint as credit
     from (${sql}) i`,
    bindings,
  );
  return row as Population;
}

/** Amounts without sign, at even steps of their order: enough to propose strata by. */
export async function amountsAcross(db: Db, question: Question, of: SampledOf, many: number): Promise<Minor[]> {
  const { sql, bindings } = itemsOf(question, of);
  const rows = await rowsOf<{ amount: Minor }>(
    db,
    `select v as amount from (select abs(amount) as v, row_number() over (order by abs(amount)) as n, count(*) over () as many from (${sql}) i) x
     where n % greatest(1, many / ?) = 0 or n = many order by v`,
    [...bindings, many],
  );
  return rows.map((r) => r.amount);
}

/** How many items, of what value, each stratum has. @param bounds the least of each but the first, ascending */
export async function strataOf(
  db: Db,
  question: Question,
  of: SampledOf,
  bounds: readonly Minor[],
): Promise<StratumOf[]> {
  const { sql, bindings } = itemsOf(question, of);
  const rows = await rowsOf<{ stratum: number; count: number; value: Minor }>(
    db,
    `select ${stratumSql(bounds)} as stratum, count(*)::integer as count, sum(abs(amount))::bigint as value from (${sql}) i group by 1`,
    [...boundsBound(bounds), ...bindings],
  );
  return [0, ...bounds].map((from, stratum) => {
    const found = rows.find((r) => r.stratum === stratum);
    return { from, count: found?.count ?? 0, value: found?.value ?? 0 };
  });
}

const stratumSql = (bounds: readonly Minor[]): string =>
  bounds.length === 0 ? '0' : 'width_bucket(abs(amount), ?::bigint[])';
const boundsBound = (bounds: readonly Minor[]): unknown[] => (bounds.length === 0 ? [] : [[...bounds]]);

const FIELDS = `books, number, line, label, day::text as day, amount`;

/** Items at places of the row in which all stand, or of the rows of strata. */
export async function itemsAt(
  db: Db,
  question: Question,
  of: SampledOf,
  places: readonly { stratum: number; places: readonly number[] }[],
  bounds: readonly Minor[] = [],
): Promise<DrawnItem[]> {
  const { sql, bindings } = itemsOf(question, of);
  const pairs = places.flatMap((p) => p.places.map((place) => [p.stratum, place] as const));
  return rowsOf<DrawnItem>(
    db,
    `select ${FIELDS}, ${bounds.length === 0 ? 'null::integer' : 'stratum'} as stratum, false as certain from (
       select *, row_number() over (partition by stratum order by ${ORDER}) as place
       from (select *, ${stratumSql(bounds)} as stratum from (${sql}) i) x) y
     where (stratum, place) in (select * from unnest(?::integer[], ?::bigint[])) order by stratum, place`,
    [...boundsBound(bounds), ...bindings, pairs.map(([s]) => s), pairs.map(([, p]) => p)],
  );
}

/** The largest items, whatever their sign. */
export async function largestItems(db: Db, question: Question, of: SampledOf, many: number): Promise<DrawnItem[]> {
  const { sql, bindings } = itemsOf(question, of);
  return rowsOf<DrawnItem>(
    db,
    `select ${FIELDS}, null::integer as stratum, false as certain from (${sql}) i order by abs(amount) desc, ${ORDER} limit ?`,
    [...bindings, many],
  );
}

/**
 * The items on which every so-manieth monetary unit falls, and those of an interval or more; of one sign, in their order.
 * @param sign 1: debits, -1: credits
 */
export async function unitsDrawn(
  db: Db,
  question: Question,
  of: SampledOf,
  { interval, first, sign, withCertain }: { interval: Minor; first: Minor; sign: 1 | -1; withCertain: boolean },
): Promise<DrawnItem[]> {
  const { sql, bindings } = itemsOf(question, of);
  const certain = withCertain ? 'v >= ?::bigint' : 'false and ?::bigint is null';
  return rowsOf<DrawnItem>(
    db,
    `select ${FIELDS}, null::integer as stratum, certain from (
       select *, sum(case when certain then 0 else v end) over (order by ${ORDER} rows unbounded preceding) as reached
       from (select *, abs(amount) as v, ${certain.replaceAll('v >=', 'abs(amount) >=')} as certain from (${sql}) i where sign(amount) = ?) x) y
     where certain or floor((reached - ?::bigint) / ?::numeric) > floor((reached - v - ?::bigint) / ?::numeric)
     order by ${ORDER}`,
    [interval, ...bindings, sign, first, interval, first, interval],
  );
}

/** An item by its subject's parts; null where the figure does not hold it. */
export async function itemNamed(
  db: Db,
  question: Question,
  of: SampledOf,
  { books, number, line }: { books: number; number: string; line: number | null },
): Promise<DrawnItem | null> {
  const { sql, bindings } = itemsOf(question, of);
  const [row] = await rowsOf<DrawnItem>(
    db,
    `select ${FIELDS}, null::integer as stratum, false as certain from (${sql}) i
     where books = ? and number = ? and line is not distinct from ?::integer`,
    [...bindings, books, number, line],
  );
  return row ?? null;
}

export type NewItem = Pick<SampleItemRow, 'subject' | 'label' | 'day' | 'amount' | 'stratum' | 'certain'> &
  Partial<Pick<SampleItemRow, 'replaces' | 'why'>>;

const INSERTED_AT_ONCE = 500;

/** Adds items under the numbers that follow. */
export async function addItems(db: Db, sample: number, items: readonly NewItem[]): Promise<void> {
  const [last] = await rowsOf<{ no: number }>(
    db,
    'select coalesce(max(no), 0) as no from sample_item where sample = ?',
    [sample],
  );
  const from = (last?.no ?? 0) + 1;
  for (let at = 0; at < items.length; at += INSERTED_AT_ONCE)
    await db('sample_item').insert(
      items.slice(at, at + INSERTED_AT_ONCE).map((item, i) => ({ sample, no: from + at + i, ...item })),
    );
}

export const readItems = (db: Db, sample: number): Promise<SampleItemRow[]> =>
  rowsOf(
    db,
    `select i.no, i.subject, i.label, i.day::text as day, i.amount, i.stratum, i.certain, i.replaces, i.why, i.found, i.attributes,
       i.note, i.tested_by, p.name as tester, i.tested_at
     from sample_item i left join person p on p.id = i.tested_by where i.sample = ? order by i.no`,
    [sample],
  );

export const updateItem = (
  db: Db,
  sample: number,
  subject: string,
  change: Partial<{ found: Minor | null; attributes: string; note: string; tested_by: number; tested_at: Date }>,
): Promise<number> => db('sample_item').where({ sample, subject }).update(change);

export const updateSample = (
  db: Db,
  id: number,
  change: Partial<Pick<SampleWords, 'title' | 'conclusion' | 'attributes'>>,
): Promise<number> =>
  db('sample')
    .where({ id })
    .update({ ...change, changed_at: new Date() });
