import type { RichText } from '@/contracts/richText';
import type { KeptView, Measure } from '@/contracts/traced';
import type { Assertion, ThreadWord } from '@/contracts/work';
import { type Db, rowsOf } from './db';

/** Changed: it was signed, and opened again since. */
export type ThreadState = 'open' | 'prepared' | 'signed' | 'changed';

export interface ThreadRow {
  id: number;
  name: string;
  state: ThreadState;
  /** The team's own reference, such as C-3. */
  reference: string;
  purpose: string;
  assertions: Assertion[];
  result: string;
  conclusion: string;
  /** Those of its words that have more in them than plain text. */
  written: Partial<Record<ThreadWord, RichText>>;
  /** Where it is filed, by period and area. */
  folder: string;
  reviewer: number | null;
  reviewer_name: string | null;
  /** The thread of the period before, from which it was rolled forward. */
  rolled_from: number | null;
  person: number;
  person_name: string;
  created_at: Date;
  changed_at: Date;
}

export interface StepRow {
  id: number;
  thread: number;
  parent: number | null;
  address: string;
  label: string;
  view: KeptView;
  split_by: string | null;
  subject: string;
  entities: string[];
  measure: Measure | null;
  currency: string | null;
  value: number | null;
  lines: number | null;
  load: number;
  note: string;
  person: number;
  person_name: string;
  created_at: Date;
}

export type NewStep = Omit<StepRow, 'id' | 'thread' | 'parent' | 'note' | 'person' | 'person_name' | 'created_at'>;

const THREADS = `select t.*, p.name as person_name, (select r.name from person r where r.id = t.reviewer) as reviewer_name
  from thread t join person p on p.id = t.person where t.removed_at is null`;
const STEPS =
  'select k.*, p.name as person_name from step k join person p on p.id = k.person where k.removed_at is null';

export const listThreads = (db: Db): Promise<ThreadRow[]> => rowsOf(db, `${THREADS} order by t.changed_at desc`);

export const readThread = async (db: Db, id: number): Promise<ThreadRow | undefined> =>
  (await rowsOf<ThreadRow>(db, `${THREADS} and t.id = ?`, [id]))[0];

export const stepsOf = (db: Db, threads: readonly number[]): Promise<StepRow[]> =>
  rowsOf(db, `${STEPS} and k.thread = any(?::integer[]) order by k.id`, [threads]);

/** Every step there is or was, of every thread. */
export const everyStep = (db: Db): Promise<StepRow[]> =>
  rowsOf(db, 'select k.*, p.name as person_name from step k join person p on p.id = k.person order by k.id');

export async function insertThread(
  db: Db,
  name: string,
  person: number,
  more: Partial<Pick<ThreadRow, 'reference' | 'purpose' | 'assertions' | 'folder' | 'reviewer' | 'rolled_from'>> = {},
): Promise<number> {
  const [row] = (await db('thread')
    .insert({ name, person, ...more })
    .returning('id')) as { id: number }[];
  return (row as { id: number }).id;
}

export const updateThread = (
  db: Db,
  id: number,
  change: Partial<
    Pick<
      ThreadRow,
      | 'name'
      | 'state'
      | 'reference'
      | 'purpose'
      | 'assertions'
      | 'result'
      | 'conclusion'
      | 'written'
      | 'folder'
      | 'reviewer'
    >
  > & { removed_at?: Date },
): Promise<unknown> =>
  db('thread')
    .where({ id })
    .update({ ...change, changed_at: new Date() });

/** Adds a way from the first sheet on; steps that are there already are walked, not added again. @returns ids along the way */
export async function addWay(db: Db, thread: number, way: readonly NewStep[], person: number): Promise<number[]> {
  const held = await stepsOf(db, [thread]);
  const ids: number[] = [];
  let parent: number | null = null;
  for (const step of way) {
    const under: number | null = parent;
    const there: StepRow | undefined = held.find((k) => k.parent === under && k.address === step.address);
    let id: number | undefined = there?.id;
    id ??= await insertStep(db, thread, under, step, person);
    parent = id;
    ids.push(id);
  }
  return ids;
}

/** @param parent the step that it was taken from; null for a first sheet */
export async function insertStep(
  db: Db,
  thread: number,
  parent: number | null,
  step: NewStep,
  person: number,
): Promise<number> {
  const [row] = (await db('step')
    .insert({ ...step, thread, parent, person })
    .returning('id')) as { id: number }[];
  return (row as { id: number }).id;
}

export const updateStep = (
  db: Db,
  id: number,
  change: { label?: string | undefined; note?: string | undefined },
): Promise<unknown> => db('step').where({ id }).update(change);

/** Takes a step away with all below it. @returns how many */
export async function removeSteps(db: Db, id: number): Promise<number> {
  const result = (await db.raw(
    `with recursive below as (select id from step where id = ? union all select k.id from step k join below b on k.parent = b.id)
     update step set removed_at = now() where id in (select id from below) and removed_at is null`,
    [id],
  )) as { rowCount: number };
  return result.rowCount;
}

/** A signature under a thread, with all that was signed. */
export interface SignOffRow {
  id: number;
  thread: number;
  person: number;
  name: string;
  signed_as: 'preparer' | 'reviewer';
  /** SHA-256 of the content. */
  digest: string;
  content: string;
  load: number;
  signed_at: Date;
  ended_at: Date | null;
  ended_name: string | null;
  reason: string | null;
}

export const signOffsOf = (db: Db, threads: readonly number[]): Promise<SignOffRow[]> =>
  rowsOf(
    db,
    `select s.*, p.name, (select e.name from person e where e.id = s.ended_by) as ended_name
     from sign_off s join person p on p.id = s.person where s.thread = any(?::integer[]) order by s.id`,
    [threads],
  );

export async function insertSignOff(
  db: Db,
  signOff: Pick<SignOffRow, 'thread' | 'person' | 'signed_as' | 'digest' | 'content' | 'load'>,
): Promise<number> {
  const [row] = (await db('sign_off').insert(signOff).returning('id')) as { id: number }[];
  return (row as { id: number }).id;
}

/** Signatures that count no more. @returns how many there were */
export const endSignOffs = (db: Db, thread: number, person: number, reason: string): Promise<number> =>
  db('sign_off').where({ thread }).whereNull('ended_at').update({ ended_at: new Date(), ended_by: person, reason });

/** Holds a thread as it is while something in it is changed: until then nobody signs it. */
export const holdThread = async (trx: Db, id: number): Promise<Pick<ThreadRow, 'state' | 'name'> | undefined> =>
  (
    await rowsOf<ThreadRow>(trx, 'select state, name from thread where id = ? and removed_at is null for share', [id])
  )[0];

/** Holds a thread while it is signed or changed, so that nobody signs what is being changed. */
export const lockThread = async (trx: Db, id: number): Promise<ThreadState | null> =>
  (await rowsOf<{ state: ThreadState }>(trx, 'select state from thread where id = ? for update', [id]))[0]?.state ??
  null;
