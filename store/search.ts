import type { FileContents } from '@/contracts/work';
import { folded, patternOfFolded, patternOfWhole } from '@/core/folded';
import { hasEach, isWhole, type SoughtInBooks } from '@/core/searchWords';
import { copiedOf } from './answer';
import type { SoughtColumn } from './columns/shape';
import { type FoundKey, keysWith } from './columns/sought';
import { textsSought } from './columns/soughtTexts';
import { type Db, NEVER, rowsOf } from './db';
import { linesFrom } from './figureSql';
import type { Question } from './question';

export type { FoundKey } from './columns/sought';

/** What lines are looked for in. */
export const LINE_WORDS: readonly SoughtColumn[] = ['description', 'entry_description', 'entry_number', 'document'];

/** Where each of them stands in the database, beside lines `s` and entries `e`. */
const COLUMNS: Readonly<Record<SoughtColumn, string>> = {
  description: 's.description',
  entry_description: 'e.description',
  entry_number: 's.entry_number',
  document: 's.document',
};

/** Lines that fit by their letters are looked at once more, this many at the most. */
const LOOKED_AT_MAX = 20_000;

/** Finds lines of a figure by what is sought: what it has in common for all kinds of what is found is looked for once. */
export interface LineSearch {
  /**
   * Keys of lines that have all that is sought, up to a limit; no order is promised.
   * @param within the texts that are looked in
   * @param each for each different text of a column, one line alone
   */
  keys(within: readonly SoughtColumn[], limit: number, each?: SoughtColumn): Promise<FoundKey[]>;
}

export function lineSearch(db: Db, question: Question, sought: readonly SoughtInBooks[]): LineSearch {
  const copied = copiedOf(db, question);
  if (copied) {
    const texts = textsSought(copied, sought);
    // Whoever asks for no keys waits for no texts, and hears of no fault with them.
    texts.catch(() => {});
    return {
      keys: async (within, limit, each) => (await keysWith(copied, await texts, within, limit, each)).slice(0, limit),
    };
  }
  // What any of their texts has is a few lines as a rule: they are gone through once for all kinds of what is found.
  let once: Promise<LookedAt[]> | null = null;
  return {
    keys: async (within, limit, each) => {
      once ??= lookedThrough(db, question, sought, LINE_WORDS, LOOKED_AT_MAX);
      const some = await once;
      const all =
        some.length < LOOKED_AT_MAX ? some : await lookedThrough(db, question, sought, within, LOOKED_AT_MAX, each);
      return keysAmong(all, sought, within, each).slice(0, limit);
    },
  };
}

/** A line as it is looked at: its texts as they are. */
type LookedAt = FoundKey & { amount: number } & Record<SoughtColumn, string | null>;

/** Lines as they are that have the letters of what is sought in some of their texts. */
function lookedThrough(
  db: Db,
  question: Question,
  sought: readonly SoughtInBooks[],
  within: readonly SoughtColumn[],
  limit: number,
  each?: SoughtColumn,
): Promise<LookedAt[]> {
  const { sql, bindings } = linesFrom(question, { openings: true });
  const values: unknown[] = [];
  const conditions = conditionsOf(
    sought,
    within.map((column) => COLUMNS[column]),
    { amount: 's.amount', day: 's.day' },
    values,
  );
  const told = LINE_WORDS.map((column) => `${COLUMNS[column]} as ${column}`);
  return rowsOf<LookedAt>(
    db,
    `select ${each ? `distinct on (${COLUMNS[each]})` : ''} s.entity, s.entry, s.line_no, s.day::text as day, abs(s.amount) as amount, ${told.join(', ')}
     from (select s.* ${sql}) s join entry e on e.id = s.entry where ${conditions}
     ${each ? `order by ${COLUMNS[each]}, s.line_no` : 'order by s.day desc, s.entry, s.line_no'} limit ${limit}`,
    [...bindings, ...values],
  );
}

/**
 * Those of some lines that have all that is sought within some of their texts: the database knows letters alone, not where
 * a word ends.
 * @param each for each different text of a column, the line that comes first by its number
 */
function keysAmong(
  lines: readonly LookedAt[],
  sought: readonly SoughtInBooks[],
  within: readonly SoughtColumn[],
  each?: SoughtColumn,
): FoundKey[] {
  const fitting = lines.filter((line) =>
    hasEach({ ...line, texts: within.flatMap((column) => line[column] ?? []).map(folded) }, sought),
  );
  const key = ({ entity, entry, line_no, day }: LookedAt): FoundKey => ({ entity, entry, line_no, day });
  if (!each) return fitting.map(key);
  const first = new Map<string | null, LookedAt>();
  for (const line of fitting) {
    const held = first.get(line[each]);
    if (!held || line.line_no < held.line_no) first.set(line[each], line);
  }
  return [...first].map(([own, line]) => ({ ...key(line), ...(own === null ? {} : { own }) }));
}

/** A document that was delivered, as it is found. */
export interface FoundDocument {
  entity: number;
  number: string;
  type: string;
  date: string;
  currency: string;
  amount: number;
  description: string;
  party: string | null;
  party_name: string | null;
}

/** SQL condition that texts together have all that is sought, each word in one of them, or its amount or day. */
function conditionsOf(
  sought: readonly SoughtInBooks[],
  texts: readonly string[],
  { amount, day }: { amount?: string; day?: string },
  values: unknown[],
): string {
  const conditions = sought.map((one) => {
    const any: string[] = [];
    if (one.text !== null) {
      any.push(`${texts.length === 1 ? texts[0] : `concat_ws(chr(1), ${texts.join(', ')})`} ~ ?`);
      values.push(isWhole(one) ? patternOfWhole(one.text) : patternOfFolded(one.text));
    }
    if (amount)
      for (const { from, to } of one.amounts) {
        any.push(`(abs(${amount}) >= ?::bigint and abs(${amount}) <= ?::bigint)`);
        values.push(from ?? 0, to ?? Number.MAX_SAFE_INTEGER);
      }
    if (day && one.days) {
      any.push(`(${day} >= ?::date and ${day} <= ?::date)`);
      values.push(one.days.from, one.days.to);
    }
    return `(${any.join(' or ') || 'false'})`;
  });
  return conditions.join(' and ') || 'false';
}

/** Delivered documents of one company that have the letters of all that is sought; the newest first. */
export async function documentsSought(
  db: Db,
  entity: number,
  sought: readonly SoughtInBooks[],
  asOf: number,
  limit: number,
): Promise<FoundDocument[]> {
  const values: unknown[] = [];
  const conditions = conditionsOf(
    sought,
    ['d.number', 'd.type', 'd.description', 'c.code', 'c.name'],
    { amount: 'd.amount', day: 'd.date' },
    values,
  );
  return rowsOf<FoundDocument>(
    db,
    `select d.entity, d.number, d.type, d.date, d.currency, d.amount, d.description, c.code as party, c.name as party_name
     from document d left join counterparty c on c.id = d.counterparty
     where d.entity = ? and d.load <= ? and d.replaced_by > ? and ${conditions} order by d.date desc, d.number limit ?`,
    [entity, asOf, asOf, ...values, limit],
  );
}

export interface FoundParty {
  code: string;
  name: string;
  kind: string | null;
  address: string;
  city: string;
  bank_account: string;
  tax_number: string;
}

/** Parties that have the letters of all that is sought. @param whole also by their bank accounts and tax numbers */
export async function partiesSought(
  db: Db,
  sought: readonly SoughtInBooks[],
  whole: boolean,
  limit: number,
): Promise<FoundParty[]> {
  const values: unknown[] = [];
  const texts = ['code', 'name', 'address', 'city', ...(whole ? ['bank_account', 'tax_number'] : [])];
  const conditions = conditionsOf(sought, texts, {}, values);
  return rowsOf<FoundParty>(
    db,
    `select code, name, kind, address, city, bank_account, tax_number from counterparty where ${conditions}
     order by code collate "C" limit ?`,
    [...values, limit],
  );
}

export interface FoundFile {
  entity: number;
  document: string;
  name: string;
  digest: string;
  /** What it says inside; empty where that is not known. */
  body: string;
}

/** Files attached to documents of some companies that have the letters of all that is sought in their name or inside. */
export async function filesSought(
  db: Db,
  entities: readonly number[],
  sought: readonly SoughtInBooks[],
  limit: number,
): Promise<FoundFile[]> {
  const values: unknown[] = [];
  const conditions = conditionsOf(sought, ['a.name', `coalesce(t.body, '')`], {}, values);
  return rowsOf<FoundFile>(
    db,
    `select a.entity, a.document, a.name, a.digest, coalesce(t.body, '') as body
     from attachment a left join file_text t on t.digest = a.digest
     where a.entity = any(?::smallint[]) and a.replaced_by = ${NEVER} and ${conditions} order by a.name, a.document limit ?`,
    [[...entities], ...values, limit],
  );
}

export interface UnreadFile {
  digest: string;
  /** What it is, where it was attached as evidence; null for one that came with documents. */
  media_type: string | null;
}

/**
 * Files whose text nobody has read yet: those that came with documents, and those attached as evidence.
 * @param readable kinds of evidence of which more than the text is kept
 */
export const filesUnread = (db: Db, readable: readonly string[], limit: number): Promise<UnreadFile[]> =>
  rowsOf(
    db,
    `select digest, max(media_type) as media_type from (
       select a.digest, null as media_type from attachment a
       where not exists (select 1 from file_text t where t.digest = a.digest)
       union all
       select f.digest, f.media_type from file f left join file_text t on t.digest = f.digest
       where t.digest is null or (t.contents is null and f.media_type = any(?::text[]))) unread
     group by digest order by digest limit ?`,
    [readable, limit],
  );

/** Keeps what a file says inside, and what it holds; what says nothing is kept too, so that it is not read again. */
export const keepFileText = (db: Db, digest: string, body: string, contents: FileContents | null): Promise<unknown> =>
  db('file_text')
    .insert({ digest, body, contents: contents === null ? null : JSON.stringify(contents) })
    .onConflict('digest')
    .merge();

/** What a file holds; null where nobody has read it yet. */
export const fileContentsOf = async (db: Db, digest: string): Promise<FileContents | null> =>
  (await rowsOf<{ contents: FileContents | null }>(db, 'select contents from file_text where digest = ?', [digest]))[0]
    ?.contents ?? null;

export interface FoundEvidenceFile extends Omit<FoundFile, 'entity' | 'document'> {
  subject: string;
  entities: string[];
  address: string;
  label: string;
  by: string;
  created_at: Date;
}

/** Files of evidence that have the letters of all that is sought in their name or inside, newest first. */
export async function evidenceFilesSought(
  db: Db,
  sought: readonly SoughtInBooks[],
  limit: number,
): Promise<FoundEvidenceFile[]> {
  const values: unknown[] = [];
  const conditions = conditionsOf(sought, ['o.name', `coalesce(t.body, '')`], {}, values);
  return rowsOf<FoundEvidenceFile>(
    db,
    `select o.name, o.digest, coalesce(t.body, '') as body, n.subject, n.entities, n.address, n.label, p.name as by, n.created_at
     from evidence n join file o on o.id = n.id join person p on p.id = n.person left join file_text t on t.digest = o.digest
     where n.kind = 'file' and n.removed_at is null and ${conditions} order by n.id desc limit ?`,
    [...values, limit],
  );
}
