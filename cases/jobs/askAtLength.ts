import { ProblemError } from '@/contracts/problem';
import type { AnswerOf, PathOf, QueryOf, ReadonlyDeep, RouteName } from '@/contracts/routes';
import type { ScopeParams } from '@/contracts/scope';
import { whoAsks } from '@/store/asking';
import { anyWorker, askCancel } from '@/store/jobs';
import type { Context } from '../asking/context';
import { readSentence } from '../asking/readSentence';
import type { Viewer } from '../asking/viewer';
import { addJob, begunBy, outcomeOf, refusalOf } from './jobs';

/** Routes whose questions may take long: two loads held against each other, and all that reads lines of a scope. */
const LONG_ROUTES = [
  'GET /loads/compare',
  'GET /accounts',
  'GET /dimensions',
  'GET /trial-balance',
  'GET /statements/{code}',
  'GET /sheets',
  'GET /totals',
  'GET /lines',
  'GET /other-side',
  'GET /marks',
  'GET /over-time',
  'GET /what-moved',
] as const satisfies readonly RouteName[];
export type LongRoute = (typeof LONG_ROUTES)[number];

export interface Question<Name extends RouteName> {
  path: PathOf<Name>;
  query: QueryOf<Name>;
}

/** A question as a job keeps it. */
export interface AskedAtLength {
  route: LongRoute;
  question: Question<LongRoute>;
  /** In which language and country whoever asks writes numbers. */
  locale: string | null;
}

const WAIT_MS = 150_000;

const isLongRoute = (name: RouteName): name is LongRoute => (LONG_ROUTES as readonly RouteName[]).includes(name);

/**
 * Answers a question here, or has it answered by a worker where it takes long: one of lines that is heavy and that
 * whoever asks has chosen to wait for, or one of loads.
 * @param here answers it here
 */
export async function answered<Name extends RouteName, Answer>(
  ctx: Context,
  viewer: Viewer,
  route: Name,
  question: Question<Name>,
  signal: AbortSignal | undefined,
  here: (query: QueryOf<Name>) => Promise<Answer>,
): Promise<Answer> {
  const atLength = async (): Promise<Answer> =>
    ((await askAtLength(ctx, viewer, route, question, signal)) as Answer | null) ?? here(question.query);
  // What leaves as a file is written as it is read, and nobody waits for all of it.
  if (!isLongRoute(route) || 'format' in (question.query ?? {})) return here(question.query);
  if (route === 'GET /loads/compare') return atLength();
  const { heavy, ...light } = question.query as ScopeParams;
  if (heavy !== 'run') return here(question.query);
  try {
    return await here(light as QueryOf<Name>);
  } catch (error) {
    if (error instanceof ProblemError && error.kind === 'heavy') return atLength();
    throw error;
  }
}

/**
 * Has a worker answer a question. It is seen among the long work and can be stopped there, and is stopped when whoever
 * asked has gone.
 * @returns null where there is no worker
 */
async function askAtLength<Name extends RouteName>(
  ctx: Context,
  viewer: Viewer,
  route: Name,
  question: Question<Name>,
  signal: AbortSignal | undefined,
): Promise<ReadonlyDeep<AnswerOf<Name>> | null> {
  // Of whom no person is kept, as on the command line, a worker would not know what they may see.
  if (viewer.id === 0 || !(await anyWorker(ctx.write))) return null;
  const { path, query } = question as Question<LongRoute>;
  const input: AskedAtLength = {
    route: route as LongRoute,
    question: { path, query },
    locale: whoAsks()?.locale ?? null,
  };
  const label = await labelOf(ctx, viewer, input);
  const id = await ctx.write.transaction((trx) =>
    addJob(trx, {
      ...begunBy(viewer),
      kind: 'question',
      subject: `question ${route.slice('GET '.length)}`,
      label,
      entities: viewer.entities && [...viewer.entities],
      input: { ...input },
    }),
  );
  const stop = (): void => void askCancel(ctx.write, id).catch(() => {});
  signal?.addEventListener('abort', stop, { once: true });
  try {
    const job = await outcomeOf(ctx, id, WAIT_MS);
    if (job.state === 'done') return job.result as ReadonlyDeep<AnswerOf<Name>>;
    throw refusalOf(job) ?? new ProblemError(409, job.message ?? `This was ${job.state}`);
  } finally {
    signal?.removeEventListener('abort', stop);
  }
}

/** What is asked, in words: who looks at the work that is under way sees what it is about. */
async function labelOf(ctx: Context, viewer: Viewer, { route, question }: AskedAtLength): Promise<string> {
  if (route === 'GET /loads/compare') {
    const { from, to } = question.query as QueryOf<'GET /loads/compare'>;
    return `What changed from load ${from} to load ${to}`;
  }
  return (await readSentence(ctx, viewer, question.query as ScopeParams)).sentence;
}
