import type { AnswerOf, ReadonlyDeep } from '@/contracts/routes';
import { answering } from '@/store/asking';
import type { Context } from '../asking/context';
import type { Viewer } from '../asking/viewer';
import { readAccounts } from '../charts/accounts';
import { readDimensions } from '../charts/dimensions';
import { compareLoads } from '../loads/compareLoads';
import { viewerOfPerson } from '../people/signIn';
import { readMarks } from '../sheets/marks';
import { readLines } from '../sheets/readLines';
import { readOtherSide } from '../sheets/readOtherSide';
import { readOverTime } from '../sheets/readOverTime';
import { readSheet } from '../sheets/readSheet';
import { readTotals } from '../sheets/readTotals';
import { readTrialBalance } from '../sheets/readTrialBalance';
import { readWhatMoved } from '../sheets/readWhatMoved';
import { readStatement } from '../statements/readStatement';
import type { AskedAtLength, LongRoute, Question } from './askAtLength';
import { JobCancelled, type Work } from './work';

type Answering<Name extends LongRoute> = (
  ctx: Context,
  viewer: Viewer,
  question: Question<Name>,
) => Promise<ReadonlyDeep<AnswerOf<Name>>>;

/** Who answers each. */
const ANSWERS: { [Name in LongRoute]: Answering<Name> } = {
  'GET /loads/compare': (ctx, viewer, { query }) => compareLoads(ctx, viewer, query),
  'GET /accounts': (ctx, viewer, { query }) => readAccounts(ctx, viewer, query),
  'GET /dimensions': (ctx, viewer, { query }) => readDimensions(ctx, viewer, query),
  'GET /trial-balance': (ctx, viewer, { query }) => readTrialBalance(ctx, viewer, query),
  'GET /statements/{code}': (ctx, viewer, { path, query }) => readStatement(ctx, viewer, path.code, query),
  'GET /sheets': (ctx, viewer, { query }) => readSheet(ctx, viewer, query),
  'GET /totals': (ctx, viewer, { query }) => readTotals(ctx, viewer, query),
  'GET /lines': (ctx, viewer, { query }) => readLines(ctx, viewer, query),
  'GET /other-side': (ctx, viewer, { query }) => readOtherSide(ctx, viewer, query),
  'GET /marks': (ctx, viewer, { query }) => readMarks(ctx, viewer, query),
  'GET /over-time': (ctx, viewer, { query }) => readOverTime(ctx, viewer, query),
  'GET /what-moved': (ctx, viewer, { query }) => readWhatMoved(ctx, viewer, query),
};

const LOOK_EVERY_MS = 500;

/** The work of a long question, asked as whoever asked it may see; what it asks the store ends when it is stopped. */
export async function answerAtLength({ ctx, job, tell }: Work): Promise<{ result: unknown }> {
  const viewer = await viewerOfPerson(ctx, job.person as number);
  const { route, question, locale } = job.input as unknown as AskedAtLength;
  const answer = ANSWERS[route] as Answering<LongRoute>;
  const stopped = new AbortController();
  const looking = setInterval(() => {
    tell(0).catch((error: unknown) => {
      if (error instanceof JobCancelled) stopped.abort();
    });
  }, LOOK_EVERY_MS);
  try {
    const asking = { id: `job ${job.id}`, signal: stopped.signal, person: viewer.email, ...(locale ? { locale } : {}) };
    return { result: await answering(asking, () => answer(ctx, viewer, question)) };
  } catch (error) {
    if (stopped.signal.aborted) throw new JobCancelled('cancelled');
    throw error;
  } finally {
    clearInterval(looking);
  }
}
