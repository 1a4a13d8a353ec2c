import type { MatchedField, ProposedKind, ProposedLine, ProposedState } from '@/core/proposedEntry';
import { type Db, NEVER, rowsOf } from './db';

/** Entries that are proposed: what they say, and their lines among the lines of the ledger, in books of their own. */

/** What a later load brought that answers one of the entries of a proposal. */
export interface BookedAs {
  /** The number that the entry bears here. */
  number: string;
  load: number | null;
  /** The number that it bears in the ledger. */
  entry: string | null;
  how: 'as proposed' | 'differs' | 'accepted' | 'not booked';
  fields: MatchedField[];
}

export interface ProposedWords {
  set: number;
  entity: string;
  type: ProposedKind;
  title: string;
  reason: string;
  lines: ProposedLine[];
  state: ProposedState;
  state_by: number | null;
  state_at: Date;
  state_reason: string;
  links: string[];
  /** Entries whose lines count now. */
  laid: number[];
  exported_at: Date | null;
  exported_as: string | null;
  booked: BookedAs[];
  tax_percent: string;
  changed_by: number | null;
}

/** The same when it is written; lists as they are handed to the database. */
export type NewProposed = Pick<
  ProposedWords,
  'set' | 'entity' | 'type' | 'title' | 'reason' | 'links' | 'tax_percent'
> & {
  lines: string;
};

export const updateProposed = (
  db: Db,
  id: number,
  { lines, booked, ...change }: Partial<Omit<ProposedWords, 'state_at'>>,
): Promise<number> =>
  db('proposed')
    .where({ id })
    .update({
      ...change,
      ...(lines === undefined ? {} : { lines: JSON.stringify(lines) }),
      ...(booked === undefined ? {} : { booked: JSON.stringify(booked) }),
      ...(change.state === undefined ? {} : { state_at: new Date() }),
      changed_at: new Date(),
    });

/** A line as it is laid down, its names turned into numbers. */
export interface LaidLine {
  line_no: number;
  account: number;
  amount: number;
  period: number;
  day_period: number;
  day: string;
  posting_date: string;
  kind: number;
  counterparty: number;
  /** Members by the slots of their dimensions, 0 for none. */
  d: number[];
  document: string | null;
  currency: string;
  currency_amount: number;
  description: string;
  extra: Record<string, string> | null;
}

/** The number under which lines of a set are kept for a company; made where there is none yet. */
export async function openProposed(db: Db, set: number, entity: number): Promise<number> {
  const [row] = await rowsOf<{ books: number }>(db, 'select open_proposed(?, ?::smallint) as books', [set, entity]);
  return (row as { books: number }).books;
}

/** Lays an entry down among the lines, so that it counts as of a load. @returns its number */
export async function layProposed(
  db: Db,
  books: number,
  load: number,
  { number, said, lines }: { number: string; said: string; lines: readonly LaidLine[] },
): Promise<number> {
  const [row] = await rowsOf<{ entry: number }>(db, 'select lay_proposed(?::smallint, ?, ?, ?, ?::jsonb) as entry', [
    books,
    load,
    number,
    said,
    JSON.stringify(lines),
  ]);
  return (row as { entry: number }).entry;
}

/** Has entries count no more, from a load on. */
export async function liftProposed(db: Db, entries: readonly number[], load: number): Promise<void> {
  for (const entry of entries) await db.raw('select lift_proposed(?, ?)', [entry, load]);
}

/** The numbers of parties by their codes, of those that are there. */
export const partyNumbers = async (db: Db, codes: readonly string[]): Promise<Map<string, number>> =>
  new Map(
    (
      await rowsOf<{ id: number; code: string }>(db, 'select id, code from counterparty where code = any(?::text[])', [
        codes,
      ])
    ).map((r) => [r.code, r.id]),
  );

export interface SetRow {
  id: number;
  name: string;
  about: string;
  person: string | null;
}

/** A set for what is tried out and taken back at once; it is told to nobody. */
export const TRIED = '~draft';

export const readSets = (db: Db): Promise<SetRow[]> =>
  rowsOf(
    db,
    `select s.id, s.name, s.about, p.name as person from proposed_set s left join person p on p.id = s.person
     order by s.id`,
  );

export const addSet = (db: Db, set: { name: string; about: string; person: number }): Promise<unknown> =>
  db('proposed_set').insert(set);

/** A booked entry that may be one that was proposed. */
export interface Candidate {
  /** The number of the proposed one. */
  number: string;
  entry: number;
  /** The number that it bears in the ledger. */
  booked: string;
  /** It names the number of the proposed one. */
  named: boolean;
}

/** What an entry that is waited for comes to on one of its accounts, and between which days it may be booked. */
export interface WaitedFor {
  number: string;
  account: number;
  amount: number;
  from: string;
  to: string;
}

/**
 * Entries of a company that a load brought and that may be proposed ones: they name a number, in their own number, their
 * text or as the document of a line, or come to the same on an account at about the same time.
 */
export const candidatesOf = (
  db: Db,
  entity: number,
  load: number,
  waited: readonly WaitedFor[],
): Promise<Candidate[]> =>
  rowsOf(
    db,
    `with waited as (select * from unnest(?::text[], ?::integer[], ?::bigint[], ?::date[], ?::date[]) w(number, account, amount, first, last)),
     named as (
       select w.number, e.id as entry from entry e join waited w on w.number in (e.number, substring(e.description from '(P-[0-9]{4,}([.][0-9]+|))'))
       where e.entity = ? and e.load = ?
       union
       select w.number, l.entry from line l join waited w on w.number = l.document where l.entity = ? and l.load = ?),
     alike as (
       select w.number, l.entry from waited w join line l on l.account = w.account and l.day between w.first and w.last
       where l.entity = ? and l.load = ? group by w.number, w.amount, l.entry having sum(l.amount) = w.amount)
     select f.number, f.entry, e.number as booked, bool_or(f.named) as named
     from (select *, true as named from named union all select *, false from alike) f
     join entry e on e.id = f.entry where e.replaced_by = ${NEVER} group by 1, 2, 3 order by 1, 4 desc, 2`,
    [
      waited.map((w) => w.number),
      waited.map((w) => w.account),
      waited.map((w) => w.amount),
      waited.map((w) => w.from),
      waited.map((w) => w.to),
      ...[entity, load, entity, load, entity, load],
    ],
  );

/** The periods of a company in which a load has lines. */
export const periodsBrought = async (db: Db, entity: number, load: number): Promise<Set<number>> =>
  new Set(
    (
      await rowsOf<{ period: number }>(db, 'select period from load_total where entity = ? and load = ?', [
        entity,
        load,
      ])
    ).map((r) => r.period),
  );

export interface TemplateRow {
  id: number;
  name: string;
  entity: string;
  words: Record<string, unknown>;
  person_name: string;
  at: Date;
}

export const readTemplates = (db: Db): Promise<TemplateRow[]> =>
  rowsOf(
    db,
    `select t.id, t.name, t.entity, t.words, p.name as person_name, t.at from proposed_template t join person p on p.id = t.person
     order by t.name`,
  );

export const addTemplate = (
  db: Db,
  { words, ...row }: { name: string; entity: string; words: object; person: number },
): Promise<unknown> => db('proposed_template').insert({ ...row, words: JSON.stringify(words) });

export const removeTemplate = (db: Db, id: number): Promise<number> => db('proposed_template').where({ id }).del();
