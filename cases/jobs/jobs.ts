import { notFound, ProblemError } from '@/contracts/problem';
import type { Db } from '@/store/db';
import {
  anyWorker,
  askCancel,
  enqueueAgain,
  insertJob,
  type JobRow,
  listJobs,
  type NewJob,
  readJob,
  unfinishedJobs,
} from '@/store/jobs';
import { askLoadToStop, loadOfSubject } from '@/store/loads';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { maySeeBooks, type Viewer } from '../asking/viewer';
import { seenPage } from './seenPage';

/**
 * Long work is not done by whoever answers requests: it is written down as a job, in the transaction of what asked for it,
 * and taken up by a worker. Everybody sees of it one row of one kind.
 */
export type JobKind =
  | 'look'
  | 'propose'
  | 'question'
  | 'load'
  | 'pull'
  | 'seal'
  | 'drift'
  | 'cash basis'
  | 'columns'
  | 'files'
  | 'tests'
  | 'mail'
  | 'export'
  | 'schedule';

/** Somebody waits in front of the screen for looks and for questions, and for mail in another place; none waits for the other, nor for loads. */
export const LANES = ['quick', 'questions', 'long'] as const;
export type Lane = (typeof LANES)[number];
export const laneOf = (kind: JobKind): Lane =>
  kind === 'look' || kind === 'mail' ? 'quick' : kind === 'question' || kind === 'propose' ? 'questions' : 'long';

/** What one person asks is theirs, and an owner's to see. */
const OWN: readonly string[] = ['look', 'propose', 'question', 'export', 'schedule'] satisfies JobKind[];

/** Loads come to count in the order in which they were sent. */
const queueOf = ({ kind, subject }: NewJob): string | null =>
  kind === 'load' ? 'loads' : OWN.includes(kind) ? null : `${kind} ${subject}`;

export const addJob = (db: Db, job: NewJob & { kind: JobKind }): Promise<number> =>
  insertJob(db, job, laneOf(job.kind), queueOf(job));

/** Puts every job that is not done into the queue again, which was lost; those that have ended stay. @returns how many */
export async function askUnfinishedAgain(ctx: Context): Promise<number> {
  const jobs = await unfinishedJobs(ctx.work);
  for (const job of jobs) await enqueueAgain(ctx.work, job.id, laneOf(job.kind as JobKind), queueOf(job));
  return jobs.length;
}

/** Who begins a job. */
export const begunBy = (viewer: Pick<Viewer, 'id' | 'name'>) => ({ person: viewer.id, person_name: viewer.name });

const maySeeJob = (viewer: Viewer, job: JobRow): boolean =>
  job.person === viewer.id ||
  viewer.role === 'owner' ||
  (viewer.role !== 'reader' &&
    !OWN.includes(job.kind) &&
    (job.entities ?? [null]).every((entity) => maySeeBooks(viewer, entity)));

/** All long work that the viewer may know of, newest first. */
export async function showJobs(ctx: Context, viewer: Viewer, params: { limit: number; after?: string | undefined }) {
  const { page, next } = await seenPage(
    (limit, before) => listJobs(ctx.write, limit, before),
    (job) => maySeeJob(viewer, job),
    params,
  );
  return { rows: page.map((job) => shownJob(job, viewer)), workers: await anyWorker(ctx.write), next };
}

export async function showJob(ctx: Context, viewer: Viewer, id: number) {
  return shownJob(await seenJob(ctx, viewer, id), viewer);
}

/** Asks a job to stop. Whoever began it, or an owner, may. */
export async function cancelJob(ctx: Context, viewer: Viewer, id: number) {
  const job = await seenJob(ctx, viewer, id);
  if (job.person !== viewer.id && viewer.role !== 'owner')
    throw new ProblemError(403, `Only ${job.person_name} or an owner can stop this`);
  if (job.finished_at) throw new ProblemError(409, `This is ${job.state} already`);
  await onRecord(ctx, viewer, async (trx, record) => {
    const load = job.kind === 'load' ? loadOfSubject(job.subject) : null;
    if (load === null) await askCancel(trx, id);
    else await askLoadToStop(trx, load);
    await record('asked a job to stop', job.subject, { job: id, kind: job.kind });
  });
  return showJob(ctx, viewer, id);
}

async function seenJob(ctx: Context, viewer: Viewer, id: number): Promise<JobRow> {
  const job = await readJob(ctx.write, id);
  if (!job || !maySeeJob(viewer, job)) throw notFound(`Job ${id}`);
  return job;
}

const shownJob = (job: JobRow, viewer: Viewer) => ({
  id: job.id,
  kind: job.kind,
  subject: job.subject,
  label: job.label,
  state: job.state,
  progress: job.progress,
  message: job.message,
  by: job.person_name,
  mine: job.person === viewer.id,
  cancelAsked: job.cancel_asked,
  tries: job.tries,
  addedAt: job.added_at.toISOString(),
  begunAt: job.begun_at?.toISOString() ?? null,
  finishedAt: job.finished_at?.toISOString() ?? null,
});

/** Why a job was refused, as whoever asked for it is told; null where it ended in another way. */
export function refusalOf({ result }: JobRow): ProblemError | null {
  const { problem } = (result ?? {}) as {
    problem?: { status: number; title: string; errors: ProblemError['errors'] };
  };
  return problem ? new ProblemError(problem.status, problem.title, problem.errors) : null;
}

const LOOK_EVERY_MS = 60;
/** What takes long is looked for less often. */
const LOOK_SLOWEST_MS = 500;

/** Has something of no company in particular done by a worker for whoever waits in front of the screen. */
export async function doneByWorker(
  ctx: Context,
  viewer: Viewer,
  job: Pick<NewJob, 'subject' | 'label' | 'input'> & { kind: JobKind },
  waitMs: number,
): Promise<JobRow> {
  const id = await ctx.write.transaction((trx) => addJob(trx, { ...begunBy(viewer), entities: null, ...job }));
  return outcomeOf(ctx, id, waitMs);
}

/** Waits for a job of one's own to end. @throws ProblemError when it takes longer than one waits for */
export async function outcomeOf(ctx: Context, id: number, waitMs: number): Promise<JobRow> {
  const until = Date.now() + waitMs;
  for (let wait = LOOK_EVERY_MS; ; wait = Math.min(LOOK_SLOWEST_MS, wait * 1.1)) {
    const job = await readJob(ctx.write, id);
    if (job?.finished_at) return job;
    if (Date.now() > until) break;
    await new Promise((resolve) => setTimeout(resolve, wait));
  }
  if (await anyWorker(ctx.write)) throw new ProblemError(503, 'Other work is ahead of this; try again in a moment');
  throw new ProblemError(
    503,
    'No worker is there to take this up; whoever runs the machine starts one with ./just-thread worker',
  );
}
