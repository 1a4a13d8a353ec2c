import { ProblemError } from '@/contracts/problem';
import { UnreadableFile } from '@/exchange/source';
import { beat, beginJob, endJob, forgive, type JobRow, readJob, releaseJob, waitingJobs } from '@/store/jobs';
import { loadOfSubject, readLoad } from '@/store/loads';
import { log } from '@/store/log';
import { connectionFault } from '../asking/connectionFault';
import type { Context } from '../asking/context';
import { refuseBrokenOff } from '../loads/loading/runLoad';
import type { JobKind } from './jobs';
import { KINDS } from './kinds';
import { JobCancelled } from './work';

const BEAT_MS = 5_000;
/** Whoever works at a job ends before it does so often: then it is the job. */
const ENDS_BADLY_MAX = 2;
/** Faults that nobody foresaw are tried again so often. */
const TRIES_MAX = 3;

/**
 * Does one job, whole. What goes wrong with it is written where it is seen; only a database that is not there is the
 * worker's own trouble, and thrown.
 * @param begin told of what its work is really begun
 */
export async function runJob(ctx: Context, id: number, begin: (subject: string) => void = () => {}): Promise<void> {
  const job = await beginJob(ctx.work, id);
  if (!job) return;
  let cancelled = false;
  const said = async (change: { progress?: number; message?: string | null } = {}): Promise<void> => {
    cancelled = (await beat(ctx.work, id, change)) || cancelled;
  };
  const beating = setInterval(() => void said().catch(() => {}), BEAT_MS);
  const started = Date.now();
  try {
    const tell = async (progress: number, message?: string): Promise<void> => {
      await said({ progress, ...(message === undefined ? {} : { message }) });
      if (cancelled) throw new JobCancelled('cancelled');
    };
    const kind = KINDS[job.kind as JobKind];
    // What waits for its turn says itself that it was cancelled, when that comes.
    if (job.cancel_asked && !kind.waits) throw new JobCancelled('cancelled');
    const { message = null, result } = await kind.run({ ctx, job, begin, tell });
    await endJob(ctx.work, id, { state: 'done', message, result });
  } catch (error) {
    await ended(ctx, job, error);
  } finally {
    clearInterval(beating);
    log().info({ job: id, kind: job.kind, subject: job.subject, ms: Date.now() - started }, 'job ended');
  }
}

async function ended(ctx: Context, job: JobRow, error: unknown): Promise<void> {
  const message = (error as Error).message;
  if (error instanceof JobCancelled)
    await endJob(ctx.work, job.id, { state: 'cancelled', message: 'stopped as asked' });
  else if (error instanceof UnreadableFile) await endJob(ctx.work, job.id, { state: 'refused', message });
  else if (error instanceof ProblemError) {
    const { status, title, errors } = error;
    await endJob(ctx.work, job.id, { state: 'refused', message, result: { problem: { status, title, errors } } });
  } else if (connectionFault(error)) {
    await releaseJob(ctx.work, job.id, false).catch(() => {});
    throw error;
  } else {
    log().error({ job: job.id, kind: job.kind, error: (error as Error).stack }, 'job failed');
    if (job.tries >= TRIES_MAX)
      await endJob(ctx.work, job.id, { state: 'put aside', message: `failed ${job.tries} times: ${message}` });
    else {
      await releaseJob(ctx.work, job.id, false);
      throw error;
    }
  }
}

/**
 * A job whose process was ended, or ended by itself. Past a limit it is refused at once, since it would be again; a
 * process that ended by itself is tried once more, and put aside the second time.
 * @param ended.limit the limit that it exceeded, in words; null: the process ended by itself
 * @param ended.began what was being worked at, as far as it was said: of loads an earlier one goes first
 * @returns whether it is to be tried again
 */
export async function jobEndedItsProcess(
  ctx: Context,
  id: number,
  { limit, how, began }: { limit: string | null; how: string; began: string | null },
): Promise<boolean> {
  const times = await releaseJob(ctx.work, id, limit === null);
  const job = await readJob(ctx.work, id);
  if (!job || job.finished_at) return false;
  if (limit === null && times < ENDS_BADLY_MAX) return true;
  const reason = limit ?? `it ended the process that worked at it ${times} times (${how}), and is put aside`;
  const state = limit === null ? 'put aside' : 'refused';
  if (job.kind !== 'load') {
    await endJob(ctx.work, id, { state, message: reason });
    await KINDS[job.kind as JobKind].putAside?.(ctx, job.subject, reason);
    return false;
  }
  // Only the load that was being read here is refused: none, if others were at theirs and this one waited.
  const load = loadOfSubject(began ?? '');
  if (load === null) {
    const own = loadOfSubject(job.subject) as number;
    // It ended again and again while it waited: nobody else would come for its load.
    if ((await readLoad(ctx.work, own))?.status === 'queued') await refuseBrokenOff(ctx.work, own, reason, state);
    await endJob(ctx.work, id, { state: 'put aside', message: reason });
    return false;
  }
  await refuseBrokenOff(ctx.work, load, reason, state);
  await forgive(ctx.work, id);
  return (await readJob(ctx.work, id))?.finished_at === null;
}

/** Does everything that waits here, in this process: for the command line and tests, where nobody else is waiting. */
export async function runJobsHere(ctx: Context): Promise<void> {
  for (;;) {
    const waiting = await waitingJobs(ctx.work);
    if (waiting.length === 0) return;
    for (const { id } of waiting) await runJob(ctx, id);
  }
}
