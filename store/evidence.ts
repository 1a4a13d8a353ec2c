import type { RichText } from '@/contracts/richText';
import type { Role } from '@/contracts/roles';
import { readSubject } from '@/contracts/subject';
import type { EvidenceKind, FINDING_KINDS, FINDING_STATES, FindingWord } from '@/contracts/work';
import { type Db, rowsOf } from './db';
import type { ExpectationWords } from './expectations';
import type { NewProposed, ProposedWords } from './proposed';
import type { SampleWords } from './samples';
import type { RunWords } from './testRuns';

/** What every piece of evidence has, of whatever kind. */
export interface EvidenceRow {
  id: number;
  /** In its canonical form, see contracts/subject. */
  subject: string;
  entities: string[];
  measure: string | null;
  /** The screen on which it was made. */
  address: string;
  label: string;
  /** The newest load then. */
  load: number;
  person: number;
  name: string;
  /** The role that the person had then. */
  role: Role;
  created_at: Date;
  /** The thread that gathers it. */
  thread: number | null;
}

/** What was written: as plain text, and as the editor's tree where it was more. */
export interface Written {
  body: string;
  content: RichText | null;
}

/** What a note answers, and what it did to it. */
export interface Answering {
  of_kind: 'note' | 'point' | 'question' | null;
  of_id: number | null;
  act: string | null;
}

export type NoteRow = EvidenceRow & Written & Answering;

/** What a pin froze. */
export interface Frozen {
  sentence: string;
  currency: string;
  value: number;
  lines: number;
  opening: number;
  digest: string;
  digest_version: number;
}

export type PinRow = EvidenceRow & Frozen & { measure: NonNullable<EvidenceRow['measure']> };

/** What a tick stands on: a figure by its value and number of lines, lines by their digest too. */
export interface Ticked {
  mark: string;
  value: number | null;
  lines: number;
  digest: string | null;
}
export type TickRow = EvidenceRow & Ticked;

export interface NewFile {
  digest: string;
  name: string;
  bytes: number;
  media_type: string;
}
export type FileRow = EvidenceRow & Omit<NewFile, 'name'> & { file_name: string };

export type PointRow = EvidenceRow & Written & { state: 'open' | 'answered' | 'cleared'; changed_at: Date };

export type QuestionRow = EvidenceRow &
  Written & { receiver: number; receiver_name: string; state: 'open' | 'answered'; changed_at: Date };

export interface FindingWords {
  title: string;
  type: (typeof FINDING_KINDS)[number];
  state: (typeof FINDING_STATES)[number];
  subjects: string[];
  amount_subject: string | null;
  amount_measure: string | null;
  /** The newest load when the amount was written down. */
  amount_load: number | null;
  currency: string | null;
  value: number | null;
  lines: number | null;
  cause: string;
  effect: string;
  recommendation: string;
  /** Those of its words that have more in them than plain text. */
  written: Partial<Record<FindingWord, RichText>>;
  owner: number | null;
  due: string | null;
}
export type FindingRow = EvidenceRow & FindingWords & { owner_name: string | null; changed_at: Date };

/** A sample with its items in a canonical form, which is what is signed of it. */
export type SampleRow = EvidenceRow & SampleWords & { changed_at: Date; items: unknown[] };

/** A run of tests, with what it came to. */
export type RunRow = EvidenceRow & RunWords;

export type ExpectationRow = EvidenceRow & { measure: string } & ExpectationWords & { changed_at: Date };

export type ProposedRow = EvidenceRow &
  ProposedWords & { set_name: string; state_by_name: string | null; changed_at: Date };

interface Own {
  note: NoteRow;
  pin: PinRow;
  tick: TickRow;
  file: FileRow;
  point: PointRow;
  question: QuestionRow;
  finding: FindingRow;
  sample: SampleRow;
  run: RunRow;
  expectation: ExpectationRow;
  proposed: ProposedRow;
}

/** A piece of evidence of some kind, as it was kept. */
export type Kept<Kind extends EvidenceKind> = Own[Kind];

/** What only a kind has when it is written. */
interface NewOwn {
  note: Written & Partial<Answering>;
  pin: Frozen;
  tick: Ticked;
  file: NewFile;
  point: Written;
  question: Written & { receiver: number };
  finding: FindingWords;
  sample: SampleWords;
  run: Pick<RunWords, 'title' | 'tests' | 'by_itself'> & { params: string };
  /** Trees as they are handed to the database. */
  expectation: Omit<ExpectationWords, 'rule' | 'parts'> & { rule: string; parts: string };
  proposed: NewProposed;
}

const OWN_COLUMNS: Record<EvidenceKind, string> = {
  note: 'o.body, o.content, o.of_kind, o.of_id, o.act',
  pin: 'o.sentence, o.currency, o.value, o.lines, o.opening, o.digest, o.digest_version',
  tick: 'o.mark, o.value, o.lines, o.digest',
  file: 'o.digest, o.name as file_name, o.bytes, o.media_type',
  point: 'o.body, o.content, o.state, o.changed_at',
  question: `o.body, o.content, o.receiver, o.state, o.changed_at,
    (select q.name from person q where q.id = o.receiver) as receiver_name`,
  finding: `o.title, o.type, o.state, o.subjects, o.amount_subject, o.amount_measure, o.amount_load, o.currency, o.value,
    o.lines, o.cause, o.effect, o.recommendation, o.written, o.owner, o.due::text as due, o.changed_at,
    (select q.name from person q where q.id = o.owner) as owner_name`,
  sample: `o.title, o.of, o.method, o.seed, o.params, o.population, o.currency, o.interval, o.attributes, o.conclusion, o.changed_at,
    (select coalesce(jsonb_agg(to_jsonb(i) - 'sample' order by i.no), '[]') from sample_item i where i.sample = o.id) as items`,
  run: 'o.title, o.tests, o.params, o.ran_with, o.population, o.results, o.job, o.by_itself, o.finished_at',
  expectation: 'o.rule, o.reason, o.least, o.currency, o.parts, o.conclusion, o.changed_at',
  proposed: `o.set, o.entity, o.type, o.title, o.reason, o.lines, o.state, o.state_by, o.state_at, o.state_reason, o.links, o.laid,
    o.exported_at, o.exported_as, o.booked, o.tax_percent, o.changed_by, o.changed_at,
    (select s.name from proposed_set s where s.id = o.set) as set_name,
    (select q.name from person q where q.id = o.state_by) as state_by_name`,
};

const select = (kind: EvidenceKind): string =>
  `select n.id, n.subject, n.entities, n.measure, n.address, n.label, n.load, n.person, n.role, n.created_at, n.thread,
     p.name, ${OWN_COLUMNS[kind]}
   from evidence n join ${kind} o on o.id = n.id join person p on p.id = n.person
   where n.kind = '${kind}'`;

export type NewEvidence = Pick<
  EvidenceRow,
  'subject' | 'entities' | 'measure' | 'address' | 'label' | 'load' | 'thread'
> & {
  person: number;
  role: Role;
};

/** Keeps a piece of evidence. @param own what only its kind has */
export async function insertEvidence<Kind extends EvidenceKind>(
  db: Db,
  kind: Kind,
  about: NewEvidence,
  own: NewOwn[Kind],
): Promise<number> {
  const [id] = await insertManyEvidence(db, kind, [{ about, own }]);
  return id as number;
}

/** The same of many of a kind at once, in their order. @returns their numbers */
export async function insertManyEvidence<Kind extends EvidenceKind>(
  db: Db,
  kind: Kind,
  rows: readonly { about: NewEvidence; own: NewOwn[Kind] }[],
): Promise<number[]> {
  const ids: number[] = [];
  for (let at = 0; at < rows.length; at += INSERTED_AT_ONCE) {
    const some = rows.slice(at, at + INSERTED_AT_ONCE);
    // Rows of one insert are numbered in their order.
    const added = (await db(kind)
      .insert(some.map((r) => r.own))
      .returning('id')) as { id: number }[];
    const numbers = added.map((a) => a.id).sort((a, b) => a - b);
    await db('evidence').insert(some.map(({ about }, i) => evidenceRow(kind, numbers[i] as number, about)));
    ids.push(...numbers);
  }
  return ids;
}

const INSERTED_AT_ONCE = 250;

function evidenceRow(kind: EvidenceKind, id: number, evidence: NewEvidence) {
  const about = readSubject(evidence.subject);
  return {
    kind,
    id,
    ...evidence,
    entry: about.is === 'line' || about.is === 'entry' ? about.entry : null,
    line: about.is === 'line' ? about.line : null,
  };
}

/** Whose evidence is wanted: of these subjects, of these entities, of threads, of a person; null: of any. */
export interface EvidenceAsked {
  subjects: readonly string[] | null;
  entities: readonly string[] | null;
  /** Gathered by one of these threads. */
  threads?: readonly number[] | null;
  /** Made by somebody. */
  person?: number | null;
  limit: number;
  /** Those after this number. */
  after: number;
}

export const listEvidence = <Kind extends EvidenceKind>(
  db: Db,
  kind: Kind,
  { subjects, entities, threads = null, person = null, limit, after }: EvidenceAsked,
): Promise<Own[Kind][]> =>
  rowsOf(
    db,
    `${select(kind)} and n.removed_at is null and n.id > ?
       ${subjects === null ? '' : 'and n.subject = any(?::text[])'}
       ${entities === null ? '' : 'and n.entities && ?::text[]'}
       ${threads === null ? '' : 'and n.thread = any(?::integer[])'}
       ${person === null ? '' : 'and n.person = ?'}
     order by n.id limit ?`,
    [
      after,
      ...(subjects === null ? [] : [subjects]),
      ...(entities === null ? [] : [entities]),
      ...(threads === null ? [] : [threads]),
      ...(person === null ? [] : [person]),
      limit,
    ],
  );

/** Questions that wait for somebody. */
export const questionsFor = (db: Db, receiver: number): Promise<QuestionRow[]> =>
  rowsOf(db, `${select('question')} and n.removed_at is null and o.receiver = ? and o.state = 'open' order by n.id`, [
    receiver,
  ]);

/** Points that are not cleared. */
export const openPoints = (db: Db): Promise<PointRow[]> =>
  rowsOf(db, `${select('point')} and n.removed_at is null and o.state <> 'cleared' order by n.id`);

/** Findings of somebody that are not done with. */
export const findingsOwned = (db: Db, owner: number): Promise<FindingRow[]> =>
  rowsOf(
    db,
    `${select('finding')} and n.removed_at is null and o.owner = ? and o.state in ('open', 'agreed') order by n.id`,
    [owner],
  );

/** Ticks of somebody under which something has moved as of a load, as far as it was worked out; newest first. */
export const movedTicksOf = (db: Db, person: number, load: number, limit: number): Promise<TickRow[]> =>
  rowsOf(
    db,
    `${select('tick')} and n.removed_at is null and n.person = ?
       and exists (select from evidence_moved m where m.kind = 'tick' and m.id = n.id and m.load = ? and m.moved)
     order by n.id desc limit ?`,
    [person, load, limit],
  );

/** One piece of evidence. @param gone whether one that was taken away is meant as well */
export const readEvidence = async <Kind extends EvidenceKind>(
  db: Db,
  kind: Kind,
  id: number,
  gone = false,
): Promise<Own[Kind] | undefined> =>
  (await rowsOf<Own[Kind]>(db, `${select(kind)} and n.id = ? ${gone ? '' : 'and n.removed_at is null'}`, [id]))[0];

export const removeEvidence = (db: Db, kind: EvidenceKind, id: number): Promise<number> =>
  db('evidence').where({ kind, id }).update({ removed_at: new Date() });

export const restoreEvidence = (db: Db, kind: EvidenceKind, id: number): Promise<number> =>
  db('evidence').where({ kind, id }).update({ removed_at: null });

/** Has a thread gather a piece of evidence, or with null none. */
export const gatherEvidence = (db: Db, kind: EvidenceKind, id: number, thread: number | null): Promise<number> =>
  db('evidence').where({ kind, id }).update({ thread });

export const rewriteNote = (db: Db, id: number, { body, content }: Written): Promise<number> =>
  db('note')
    .where({ id })
    .update({ body, content: content === null ? null : JSON.stringify(content) });

/** What was answered to points or questions, oldest first. */
export const answersTo = (db: Db, kind: 'point' | 'question', ids: readonly number[]): Promise<NoteRow[]> =>
  rowsOf(
    db,
    `${select('note')} and n.removed_at is null and o.of_kind = ? and o.of_id = any(?::integer[]) order by n.id`,
    [kind, ids],
  );

/** How often each of some notes was changed. */
export const editsOf = async (db: Db, subjects: readonly string[]): Promise<Map<string, number>> =>
  new Map(
    (
      await rowsOf<{ subject: string; n: number }>(
        db,
        'select subject, count(*)::integer as n from former_words where subject = any(?::text[]) group by 1',
        [subjects],
      )
    ).map((r) => [r.subject, r.n]),
  );

export const setPointState = (db: Db, id: number, state: PointRow['state']): Promise<number> =>
  db('point').where({ id }).update({ state, changed_at: new Date() });

export const setQuestionState = (db: Db, id: number, state: QuestionRow['state']): Promise<number> =>
  db('question').where({ id }).update({ state, changed_at: new Date() });

export const updateFinding = (db: Db, id: number, change: Partial<FindingWords>): Promise<number> =>
  db('finding')
    .where({ id })
    .update({ ...change, changed_at: new Date() });

/** Files of the same bytes, wherever they are attached. */
export const filesOf = (db: Db, digests: readonly string[]): Promise<FileRow[]> =>
  rowsOf(db, `${select('file')} and n.removed_at is null and o.digest = any(?::text[]) order by n.id`, [digests]);

/** Somebody is spoken to; those who are already stay so, seen or not. @returns who was not before */
export async function insertMentions(
  db: Db,
  kind: EvidenceKind,
  id: number,
  people: readonly number[],
): Promise<number[]> {
  if (people.length === 0) return [];
  const added = (await db('mention')
    .insert(people.map((person) => ({ kind, id, person })))
    .onConflict(['kind', 'id', 'person'])
    .ignore()
    .returning('person')) as { person: number }[];
  return added.map((row) => row.person);
}

/** The notes, points and questions in which somebody is spoken to and has not said that they saw it. */
export const mentionsOf = (db: Db, person: number): Promise<{ kind: EvidenceKind; id: number; made_at: Date }[]> =>
  rowsOf(
    db,
    `select m.kind, m.id, m.made_at from mention m join evidence n on n.kind = m.kind and n.id = m.id
     where m.person = ? and m.seen_at is null and n.removed_at is null order by m.made_at desc limit 200`,
    [person],
  );

export const mentionSeen = (db: Db, kind: EvidenceKind, id: number, person: number): Promise<number> =>
  db('mention').where({ kind, id, person }).whereNull('seen_at').update({ seen_at: new Date() });

/** Whether what some ticks stand on had moved as of a load, as far as it was worked out. */
export const movedKept = async (
  db: Db,
  kind: EvidenceKind | 'step',
  ids: readonly number[],
  load: number,
): Promise<Map<number, boolean>> =>
  new Map(
    (
      await rowsOf<{ id: number; moved: boolean }>(
        db,
        'select id, moved from evidence_moved where kind = ? and id = any(?::integer[]) and load = ?',
        [kind, ids, load],
      )
    ).map((r) => [r.id, r.moved]),
  );

export async function keepMoved(
  db: Db,
  kind: EvidenceKind | 'step',
  load: number,
  found: readonly { id: number; moved: boolean }[],
): Promise<void> {
  if (found.length === 0) return;
  await db('evidence_moved')
    .insert(found.map((f) => ({ kind, load, ...f })))
    .onConflict(['kind', 'id', 'load'])
    .merge();
}

/** What later loads did to the lines under a pin, as it was worked out once. */
export interface DriftRow {
  pin: number;
  load: number;
  /** The pin's figure as of that load; null where its line or entry is gone. */
  value: number | null;
  lines: unknown[];
  /** There are more changed lines than are kept. */
  more: boolean;
}

export const driftsOf = (db: Db, pins: readonly number[], load: number): Promise<DriftRow[]> =>
  rowsOf(db, 'select * from pin_drift where pin = any(?::integer[]) and load = ?', [pins, load]);

export const keepDrift = async (db: Db, drift: DriftRow): Promise<void> => {
  await db('pin_drift')
    .insert({ ...drift, lines: JSON.stringify(drift.lines) })
    .onConflict(['pin', 'load'])
    .merge();
};

/** Pins whose drift at a load nobody has worked out yet, oldest first. */
export const pinsWithoutDrift = (db: Db, load: number): Promise<PinRow[]> =>
  rowsOf(
    db,
    `${select('pin')} and n.removed_at is null and n.load < ?
       and not exists (select 1 from pin_drift d where d.pin = n.id and d.load = ?) order by n.id`,
    [load, load],
  );

/** Ticks of which nobody has worked out yet whether they moved, oldest first. */
export const ticksUnmoved = (db: Db, load: number, limit: number): Promise<TickRow[]> =>
  rowsOf(
    db,
    `${select('tick')} and n.removed_at is null and n.load < ?
       and not exists (select 1 from evidence_moved d where d.kind = 'tick' and d.id = n.id and d.load = ?)
     order by n.id limit ?`,
    [load, load, limit],
  );

export const everyPin = (db: Db): Promise<PinRow[]> =>
  rowsOf(db, `${select('pin')} and n.removed_at is null order by n.id`);

/** Lines of some entities that bear a tick, each once, by the numbers of their entry and line. */
export const tickedLines = (
  db: Db,
  entities: readonly string[],
): Promise<{ entity: string; entry: string; line: number }[]> =>
  rowsOf(
    db,
    `select distinct entities[1] as entity, entry, line from evidence
     where kind = 'tick' and removed_at is null and line is not null and entities && ?::text[]`,
    [entities],
  );
