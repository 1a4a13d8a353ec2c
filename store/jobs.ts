import { type Db, rowsOf } from './db';

export type JobState = 'waiting' | 'under way' | 'done' | 'refused' | 'cancelled' | 'put aside';

/** A piece of long work that somebody asked for, as everybody sees it. */
export interface JobRow {
  id: number;
  kind: string;
  /** What it is about: `load 12`, `connection 3`, `file <digest>`. */
  subject: string;
  label: string;
  input: Record<string, unknown>;
  state: JobState;
  /** From 0 to 1. */
  progress: number;
  message: string | null;
  result: unknown;
  person: number | null;
  person_name: string;
  /** Whose books it is about; null: everybody's. */
  entities: string[] | null;
  added_at: Date;
  begun_at: Date | null;
  beat_at: Date | null;
  finished_at: Date | null;
  tries: number;
  /** How often whoever worked at it ended before it did. */
  ended_badly: number;
  cancel_asked: boolean;
}

export type NewJob = Pick<JobRow, 'kind' | 'subject' | 'label' | 'person' | 'person_name' | 'entities'> & {
  input?: Record<string, unknown>;
};

/** A worker that has not been heard of for so long is gone, and what it had begun may be taken up by another. */
export const GONE_SECONDS = 20;

/**
 * Adds a job and puts it in its lane, in the transaction of whoever asks: what is rolled back was never asked for.
 * @param queue jobs of one queue are done one after the other, in the order in which they came
 */
export async function insertJob(db: Db, job: NewJob, lane: string, queue: string | null): Promise<number> {
  const [row] = (await db('job')
    .insert({ ...job, input: JSON.stringify(job.input ?? {}) })
    .returning('id')) as { id: number }[];
  const { id } = row as { id: number };
  await db.raw('select enqueue(?, ?, ?)', [id, lane, queue]);
  return id;
}

/** Jobs that are not done, in the order in which they came. */
export const unfinishedJobs = (db: Db): Promise<JobRow[]> =>
  rowsOf(db, 'select * from job where finished_at is null order by id');

export const enqueueAgain = async (db: Db, id: number, lane: string, queue: string | null): Promise<void> => {
  await db.raw('select enqueue(?, ?, ?)', [id, lane, queue]);
};

export const readJob = (db: Db, id: number): Promise<JobRow | undefined> =>
  db('job').where({ id }).first() as unknown as Promise<JobRow | undefined>;

/** The newest job about a subject that is not done. */
export const openJobOf = async (db: Db, kind: string, subject: string): Promise<JobRow | undefined> =>
  (
    await rowsOf<JobRow>(
      db,
      'select * from job where kind = ? and subject = ? and finished_at is null order by id desc limit 1',
      [kind, subject],
    )
  )[0];

export const listJobs = (db: Db, limit: number, before: number | null): Promise<JobRow[]> =>
  rowsOf(db, 'select * from job where id < ? order by id desc limit ?', [before ?? 2_147_483_647, limit]);

/** Jobs that nobody works at, oldest first. */
export const waitingJobs = (db: Db): Promise<{ id: number }[]> =>
  rowsOf(db, `select id from job where finished_at is null and ${FREE} order by id`);

const FREE = `(state = 'waiting' or beat_at is null or beat_at < now() - interval '${GONE_SECONDS} seconds')`;

/** Takes a job up, unless it is done or somebody is at it. */
export const beginJob = async (db: Db, id: number): Promise<JobRow | null> =>
  (
    await rowsOf<JobRow>(
      db,
      `update job set state = 'under way', begun_at = coalesce(begun_at, now()), beat_at = now(), tries = tries + 1, progress = 0
       where id = ? and finished_at is null and ${FREE} returning *`,
      [id],
    )
  )[0] ?? null;

/** Says that a job goes on, and how far it is. @returns whether somebody asked for it to stop */
export async function beat(
  db: Db,
  id: number,
  change: { progress?: number; message?: string | null } = {},
): Promise<boolean> {
  const [row] = (await db('job')
    .where({ id })
    .update({ ...change, beat_at: db.raw('now()') })
    .returning('cancel_asked')) as { cancel_asked: boolean }[];
  return row?.cancel_asked ?? false;
}

/** The same of whatever job is about a subject. */
export const beatOf = (db: Db, kind: string, subject: string, progress: number): Promise<unknown> =>
  db('job').where({ kind, subject }).whereNull('finished_at').update({ progress });

/** Ends a job; one that has ended stays as it did. */
export const endJob = (
  db: Db,
  id: number,
  end: { state: Exclude<JobState, 'waiting' | 'under way'>; message?: string | null; result?: unknown },
) =>
  db('job')
    .where({ id })
    .whereNull('finished_at')
    .update({
      state: end.state,
      message: end.message ?? null,
      result: end.result === undefined ? null : JSON.stringify(end.result),
      finished_at: db.raw('now()'),
      ...(end.state === 'done' ? { progress: 1 } : {}),
    });

/** Ends whatever job was about a subject, in the transaction in which its outcome is written. */
export const endJobsOf = (
  db: Db,
  kind: string,
  subject: string,
  state: JobState,
  message: string | null,
): Promise<unknown> =>
  db('job')
    .where({ kind, subject })
    .whereNull('finished_at')
    .update({ state, message, finished_at: db.raw('now()'), ...(state === 'done' ? { progress: 1 } : {}) });

/** Puts a job back, for another try. @param badly whether whoever worked at it ended before it did */
export async function releaseJob(db: Db, id: number, badly: boolean): Promise<number> {
  const [row] = await rowsOf<{ ended_badly: number }>(
    db,
    `update job set state = 'waiting', beat_at = null, ended_badly = ended_badly + ? where id = ? and finished_at is null returning ended_badly`,
    [badly ? 1 : 0, id],
  );
  return row?.ended_badly ?? 0;
}

/** What ended badly before is not held against what a job does next. */
export const forgive = (db: Db, id: number): Promise<unknown> =>
  db('job').where({ id }).whereNull('finished_at').update({ ended_badly: 0 });

export const askCancel = (db: Db, id: number): Promise<unknown> =>
  db('job').where({ id }).update({ cancel_asked: true });

/** The same of whatever job is about a subject. */
export const askCancelOf = (db: Db, kind: string, subject: string): Promise<unknown> =>
  db('job').where({ kind, subject }).update({ cancel_asked: true });

/** What was found out for somebody to look at goes after a while; that it was asked stays. */
export const forgetResults = (db: Db, hours: number): Promise<unknown> =>
  db.raw(`update job set result = null where result is not null and finished_at < now() - make_interval(hours => ?)`, [
    hours,
  ]);

/** Says that workers are there. */
export const workersSeen = (db: Db, ids: readonly string[]): Promise<unknown> =>
  db.raw('insert into worker (id) select unnest(?::text[]) on conflict (id) do update set seen_at = now()', [[...ids]]);

/** Whether any worker is there to take work up. */
export const anyWorker = async (db: Db): Promise<boolean> =>
  (await rowsOf(db, `select 1 from worker where seen_at > now() - interval '${GONE_SECONDS} seconds' limit 1`)).length >
  0;

/** Lets what gone workers held be taken up by others. @returns how many are gone */
export async function forgetGoneWorkers(db: Db): Promise<number> {
  const gone = await rowsOf<{ id: string }>(
    db,
    `delete from worker where seen_at < now() - interval '${GONE_SECONDS} seconds' returning id`,
  );
  if (gone.length > 0)
    await unlock(
      db,
      gone.map((w) => w.id),
    );
  return gone.length;
}

const unlock = (db: Db, ids: readonly string[]): Promise<unknown> =>
  db.raw('select graphile_worker.force_unlock_workers(?::text[])', [[...ids]]);

/** Workers that say that they go: what they held may be taken up at once, not when they are missed. */
export async function forgetWorkers(db: Db, ids: readonly string[]): Promise<void> {
  await unlock(db, ids);
  await db('worker')
    .whereIn('id', [...ids])
    .delete();
}
