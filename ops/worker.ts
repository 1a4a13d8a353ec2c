import { type ChildProcess, fork } from 'node:child_process';
import { EventEmitter } from 'node:events';
import { existsSync, readFileSync } from 'node:fs';
import { setPriority } from 'node:os';
import { type Runner, type RunnerOptions, run } from 'graphile-worker';
import { connectionFault } from '@/cases/asking/connectionFault';
import { closeContext, context } from '@/cases/asking/context';
import { askUnreadFiles } from '@/cases/documents/readFiles';
import { type JobKind, LANES, type Lane, laneOf } from '@/cases/jobs/jobs';
import { KINDS, type Limits } from '@/cases/jobs/kinds';
import { jobEndedItsProcess } from '@/cases/jobs/runJob';
import { askSchedules } from '@/cases/leaving/schedules';
import { askScheduled } from '@/cases/loads/connections';
import { askMissingCopies } from '@/cases/loads/copyLines';
import { clearFiles } from '@/cases/loads/keptFiles';
import { askSeals } from '@/cases/loads/sealLoad';
import { askScheduledTests } from '@/cases/tests/byThemselves';
import {
  beat,
  forgetGoneWorkers,
  forgetResults,
  forgetWorkers,
  GONE_SECONDS,
  readJob,
  releaseJob,
  workersSeen,
} from '@/store/jobs';
import { loadOfSubject, readLoad } from '@/store/loads';
import { openLog } from '@/store/log';
import { quiet } from '@/store/queue';
import type { FromHand, ToHand } from './hand';
import { programFile } from './programs';

/** Takes jobs from the queue, and has each done by a process of its own that is watched. */

/** How many jobs of a lane are done at once. */
const PLACES: Record<Lane, number> = { quick: 2, questions: 1, long: 2 };
/** How often what a process takes is looked at. */
const LOOK_MS = 100;
const SEEN_MS = 5_000;
/** A process has done so many jobs when another takes its place: nothing that leaks adds up. */
const JOBS_EACH = 50;
/** The least heap that a process is given; what it takes beside that counts against the limit of its job. */
const HEAP_MB: Record<Lane, number> = { quick: 512, questions: 768, long: 1_024 };
/** Behind those who wait in front of the screen. */
const NICE = 10;
/** What is under way when the worker is asked to stop is begun again by the next one; it is not waited for long. */
const DRAIN_MS = 5_000;
const AGAIN_MS = 1_000;
const PAGE_BYTES = 4_096;

/** A machine with less to give than the kinds of jobs may take (cases/jobs/kinds) says so. */
const MOST_BYTES = Number(process.env.JUST_THREAD_JOB_MEMORY_MB ?? Number.POSITIVE_INFINITY) * 1024 ** 2;
const MOST_MS = Number(process.env.JUST_THREAD_JOB_SECONDS ?? Number.POSITIVE_INFINITY) * 1_000;
const within = ({ memoryBytes, timeMs }: Limits): Limits => ({
  memoryBytes: Math.min(memoryBytes, MOST_BYTES),
  timeMs: Math.min(timeMs, MOST_MS),
});

const log = openLog('worker');
const ctx = context();
let stopping = false;

/** How a process ended before its job did. */
interface Ended {
  how: string;
  limit: string | null;
  began: string | null;
}

/** How a job went with a process: done; or failed in it; or it ended before. */
type Outcome = null | { failed: string } | Ended;

/** A process that does jobs of one lane. */
class Hand {
  private child: ChildProcess | null = null;
  private did = 0;

  constructor(private readonly lane: Lane) {}

  /**
   * Does a job to its end.
   * @param limitsOf what it may take, by what it works at
   * @returns null, or how the process ended before it did: past a limit in words, or by itself
   */
  async do(
    job: number,
    subject: string,
    waits: boolean,
    limitsOf: (subject: string) => Promise<Limits>,
  ): Promise<Outcome> {
    const child = this.child ?? (await this.start());
    let limits = await limitsOf(subject);
    this.did += 1;
    const outcome = await new Promise<Outcome>((resolve) => {
      let limit: string | null = null;
      let began: string | null = waits ? null : subject;
      let until = waits ? Number.POSITIVE_INFINITY : Date.now() + limits.timeMs;
      const end = (reason: string): void => {
        limit = reason;
        child.kill('SIGKILL');
      };
      const watching = setInterval(() => {
        // Whoever waits for others takes nothing yet.
        if (limit !== null || began === null) return;
        const bytes = memoryOf(child.pid);
        if (bytes > limits.memoryBytes)
          end(`reading it takes more than ${Math.round(limits.memoryBytes / 1024 ** 2)} MB of memory`);
        else if (Date.now() > until) end(`reading it takes longer than ${Math.round(limits.timeMs / 1000)} seconds`);
      }, LOOK_MS);
      const beating = setInterval(() => void beat(ctx.work, job).catch(() => {}), SEEN_MS);
      const finish = (outcome: Outcome): void => {
        clearInterval(watching);
        clearInterval(beating);
        child.off('message', heard);
        child.off('exit', exited);
        resolve(outcome);
      };
      const heard = (words: FromHand): void => {
        if ('began' in words) {
          began = words.began;
          void limitsOf(began)
            .then((its) => {
              limits = its;
              until = Date.now() + its.timeMs;
            })
            .catch(() => {}); // the limits of the job itself hold
        }
        if ('done' in words) finish(null);
        if ('failed' in words) finish({ failed: words.message });
      };
      const exited = (code: number | null, signal: string | null): void => {
        this.child = null;
        finish({ how: signal ?? `exit ${code}`, limit, began });
      };
      child.on('message', heard);
      child.on('exit', exited);
      child.send({ job } satisfies ToHand);
    });
    if (this.did >= JOBS_EACH) this.stop();
    return outcome;
  }

  /** Starts a process beforehand, so that the next job need not wait for it. */
  async start(): Promise<ChildProcess> {
    const child = fork(programFile('hand'), [], {
      ...withParent([`--max-old-space-size=${HEAP_MB[this.lane]}`]),
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    });
    this.did = 0;
    if (child.pid) {
      try {
        setPriority(child.pid, NICE);
      } catch {
        // It is as quick as everything else then.
      }
    }
    await new Promise<void>((resolve, reject) => {
      child.once('message', () => resolve());
      child.once('exit', (code) => reject(new Error(`the process for jobs did not start (exit ${code})`)));
    });
    child.once('exit', () => {
      if (this.child === child) this.child = null;
    });
    this.child = child;
    return child;
  }

  async ready(): Promise<void> {
    if (this.child === null) await this.start();
  }

  stop(): void {
    this.child?.disconnect();
    this.child = null;
  }

  kill(): void {
    this.child?.kill('SIGKILL');
  }
}

const SETPRIV = '/usr/bin/setpriv';

/** A process that ends with its worker, even where it is too busy to notice that the worker has gone (prctl(2), PR_SET_PDEATHSIG). */
const withParent = (args: string[]): { execPath?: string; execArgv: string[] } =>
  existsSync(SETPRIV)
    ? { execPath: SETPRIV, execArgv: ['--pdeathsig', 'KILL', process.execPath, ...args] }
    : { execArgv: args };

/** Bytes that a process holds in memory (proc(5)); 0 where that cannot be known. */
function memoryOf(pid: number | undefined): number {
  try {
    return Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]) * PAGE_BYTES;
  } catch {
    return 0;
  }
}

const hands: Record<Lane, Hand[]> = { quick: [], questions: [], long: [] };
for (const lane of LANES) for (let i = 0; i < PLACES[lane]; i++) hands[lane].push(new Hand(lane));
const free: Record<Lane, Hand[]> = {
  quick: [...hands.quick],
  questions: [...hands.questions],
  long: [...hands.long],
};

/** What is being done here. */
const doing = new Set<number>();

async function doJob(id: number): Promise<void> {
  doing.add(id);
  try {
    await doIt(id);
  } finally {
    doing.delete(id);
  }
}

/** Asks until the database answers: what is under way here is not given up because it went for a while. */
async function patiently<T>(ask: () => Promise<T>): Promise<T> {
  for (;;) {
    try {
      return await ask();
    } catch (error) {
      if (stopping || !connectionFault(error)) throw error;
      await new Promise((resolve) => setTimeout(resolve, AGAIN_MS));
    }
  }
}

async function doIt(id: number): Promise<void> {
  const job = await patiently(() => readJob(ctx.work, id));
  if (!job || job.finished_at) return;
  const kind = job.kind as JobKind;
  const lane = laneOf(kind);
  const hand = free[lane].pop() ?? new Hand(lane);
  try {
    const limitsOf = async (subject: string): Promise<Limits> =>
      within(KINDS[kind].limits(await patiently(() => bytesOf(subject))));
    for (;;) {
      const outcome = await hand.do(id, job.subject, KINDS[kind].waits ?? false, limitsOf);
      if (outcome === null) return;
      if (stopping) return;
      if ('failed' in outcome) {
        // The queue goes on in its order: what is to be tried again is tried here.
        await new Promise((resolve) => setTimeout(resolve, AGAIN_MS));
        await patiently(() => releaseJob(ctx.work, id, false));
        if ((await patiently(() => readJob(ctx.work, id)))?.finished_at !== null) return;
        continue;
      }
      log.warn({ job: id, kind, ...outcome }, 'the process of a job ended');
      if (!(await patiently(() => jobEndedItsProcess(ctx, id, outcome)))) return;
    }
  } finally {
    if (hands[lane].includes(hand)) free[lane].push(hand);
    else hand.stop();
    // The next job does not wait for a process to start.
    if (!stopping && hands[lane].includes(hand)) void hand.ready().catch(() => {});
  }
}

async function bytesOf(subject: string): Promise<number> {
  const load = loadOfSubject(subject);
  return load === null ? 0 : ((await readLoad(ctx.work, load))?.file_bytes ?? 0);
}

/** What is done by itself, and how often (in minutes). */
const SCHEDULES: [name: string, minutes: number, act: () => Promise<unknown>][] = [
  ['sources by their schedule', 1, () => askScheduled(ctx)],
  ['digests of loads that have none', 60, () => askSeals(ctx)],
  ['copies by columns that are not there', 10, () => askMissingCopies(ctx)],
  ['attached files that nobody has read', 1, () => askUnreadFiles(ctx)],
  ['reports by their schedule', 1, () => askSchedules(ctx)],
  ['tests by their schedule', 60, () => askScheduledTests(ctx)],
  ['files that were only looked at', 60, () => clearFiles(ctx)],
  ['what was found by looking', 60, () => forgetResults(ctx.work, 24)],
];

const ids = new Set<string>();
const runners: Runner[] = [];
for (const lane of LANES) {
  const events = new EventEmitter() as RunnerOptions['events'] & EventEmitter;
  events.on('worker:create', ({ worker }: { worker: { workerId: string } }) => ids.add(worker.workerId));
  const runner = await run({
    events,
    connectionString: process.env.JUST_THREAD_WORK_URL ?? process.env.DATABASE_URL,
    concurrency: PLACES[lane],
    pollInterval: 1_000,
    maxPoolSize: PLACES[lane] + 2,
    noHandleSignals: true,
    logger: quiet,
    taskList: {
      [lane]: (payload: unknown) => doJob((payload as { job: number }).job),
      ...(lane === 'long'
        ? Object.fromEntries(SCHEDULES.map(([, , act], i) => [`schedule-${i}`, async () => void (await act())]))
        : {}),
    },
    // One worker of all does what falls due, whichever it is.
    crontab:
      lane === 'long'
        ? SCHEDULES.map(([, minutes], i) => `${minutes === 1 ? '*' : '7'} * * * * schedule-${i} ?max=1`).join('\n')
        : '',
  });
  // The queue gives up when the database is away for long; whoever watches over this starts it again.
  runner.promise.catch((error: Error) => {
    log.error({ error: error.message }, 'the queue gave up');
    process.exit(1);
  });
  runners.push(runner);
}

async function seen(): Promise<void> {
  await workersSeen(ctx.work, [...ids]);
  const gone = await forgetGoneWorkers(ctx.work);
  if (gone > 0) log.warn({ gone }, `workers not heard of for ${GONE_SECONDS} seconds: what they held is taken up`);
}
const seeing = setInterval(
  () =>
    void seen().catch((error: Error) =>
      log.error({ error: error.message }, 'the worker could not say that it is there'),
    ),
  SEEN_MS,
);

async function stop(): Promise<void> {
  if (stopping) return;
  stopping = true;
  clearInterval(seeing);
  log.info('stopping');
  const ended = Promise.all(runners.map((runner) => runner.stop())).catch(() => {});
  await Promise.race([ended, new Promise((resolve) => setTimeout(resolve, DRAIN_MS))]);
  for (const hand of Object.values(hands).flat()) hand.kill();
  await forgetGone().catch(() => {});
  await closeContext(ctx).catch(() => {});
  process.exit(0);
}

/** What this worker held is taken up by the next one at once, not when it is missed. */
async function forgetGone(): Promise<void> {
  for (const job of doing) await releaseJob(ctx.work, job, false);
  await forgetWorkers(ctx.work, [...ids]);
}
process.on('SIGTERM', () => void stop());
process.on('SIGINT', () => void stop());
process.on('disconnect', () => void stop());

await Promise.all([...hands.quick.slice(0, 1), ...hands.long.slice(0, 1)].map((hand) => hand.ready()));
await seen();
// What was loaded before there were digests does not wait for the hour.
await askMissingCopies(ctx).catch((error: Error) =>
  log.error({ error: error.message }, 'copies by columns could not be asked for'),
);
await askSeals(ctx).catch((error: Error) => log.error({ error: error.message }, 'digests could not be asked for'));
log.info({ workers: ids.size }, 'ready');
process.send?.('ready');
// Nobody who asks waits for its process to start; whoever only loads does not wait for it either.
void hands.questions[0]?.ready().catch(() => {});
