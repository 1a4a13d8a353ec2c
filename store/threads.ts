import type { KeptView, Measure } from '@/contracts/traced';
import { type Db, rowsOf } from './db';

export type ThreadState = 'open' | 'concluded';

export interface ThreadRow {
  id: number;
  name: string;
  state: ThreadState;
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

const THREADS =
  'select t.*, p.name as person_name from thread t join person p on p.id = t.person where t.removed_at is null';
const STEPS =
  'select k.*, p.name as person_name from step k join person p on p.id = k.person where k.removed_at is null';

export const listThreads = (db: Db): Promise<ThreadRow[]> =>
  rowsOf(db, `${THREADS} order by t.changed_at desc limit 1000`);

export const readThread = async (db: Db, id: number): Promise<ThreadRow | undefined> =>
  (await rowsOf<ThreadRow>(db, `${THREADS} and t.id = ?`, [id]))[0];

export const stepsOf = (db: Db, threads: readonly number[]): Promise<StepRow[]> =>
  rowsOf(db, `${STEPS} and k.thread = any(?::integer[]) order by k.id`, [threads]);

/** Every step there is or was, of every thread. */
export const everyStep = (db: Db): Promise<StepRow[]> =>
  rowsOf(db, 'select k.*, p.name as person_name from step k join person p on p.id = k.person order by k.id');

export async function insertThread(db: Db, name: string, person: number): Promise<number> {
  const [row] = (await db('thread').insert({ name, person }).returning('id')) as { id: number }[];
  return (row as { id: number }).id;
}

export const updateThread = (
  db: Db,
  id: number,
  change: { name?: string | undefined; state?: ThreadState | undefined; removed_at?: Date },
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
    if (id === undefined) {
      const [row] = (await db('step')
        .insert({ ...step, thread, parent: under, person })
        .returning('id')) as { id: number }[];
      id = (row as { id: number }).id;
    }
    parent = id;
    ids.push(id);
  }
  return ids;
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
