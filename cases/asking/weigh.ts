import { ProblemError } from '@/contracts/problem';
import type { Figure, Split } from '@/core/figure';
import { ACCOUNT_TYPES } from '@/core/ledger';
import { parseSelection } from '@/core/selection';
import type { SentencePart } from '@/core/sentence';
import type { Db } from '@/store/db';
import { readsLines } from '@/store/figureSql';
import type { Question } from '@/store/question';
import { bearingCount } from '@/store/weight';
import type { Context } from './context';
import { spokenRoughly } from './spokenNumbers';

/** Lines that are read and added up in a second, about: on two shared cores 1.7 million took 2.3 s, ten million 28 s. */
const LINES_A_SECOND = 500_000;

/** What is weighed: a question, how many lines bear on it, and what would make it lighter. */
export interface Weighed {
  readonly figure: Figure;
  readonly parts: readonly SentencePart[];
  /** The question itself, asked of nothing yet. */
  readonly unweighed: Question;
  questionToWeigh(): Question;
  /** Whether all lines that `questionToWeigh` counts are the viewer's to see. */
  readonly weighsOwnLines: boolean;
  narrowed(change: Partial<Figure>): Weighed;
}

/**
 * Says that a question is heavy before it is run: one that sums cannot answer, and that has to read very many lines.
 * Whoever asks for it all the same has it run with more patience.
 * @returns the connection to ask on
 * @throws ProblemError naming what would help, each with the parameters that do it
 */
export async function readerOf(
  ctx: Context,
  asked: Weighed,
  splits: readonly Split[],
  heavy: 'run' | undefined,
): Promise<Db> {
  if (!readsLines(asked.unweighed, splits)) return ctx.read;
  const lines = await bearingCount(ctx.read, asked.questionToWeigh());
  if (lines <= ctx.heavyLines) return ctx.read;
  if (heavy === 'run') return ctx.patient;
  const many = asked.weighsOwnLines ? spokenRoughly(lines) : 'very many';
  const seconds = asked.weighsOwnLines ? `about ${Math.max(2, Math.ceil(lines / LINES_A_SECOND))} seconds` : 'a while';
  throw new ProblemError(
    409,
    `This has to read ${many} lines one by one, which takes ${seconds}`,
    await lighterQuestions(ctx, asked, splits),
    'heavy',
  );
}

/** Questions near to this one that are answered at once. */
async function lighterQuestions(
  ctx: Context,
  asked: Weighed,
  splits: readonly Split[],
): Promise<ProblemError['errors']> {
  const found: ProblemError['errors'] = [];
  for (const clause of asked.figure.where) {
    const fewer = asked.narrowed({ where: asked.figure.where.filter((c) => c !== clause) });
    if (readsLines(fewer.unweighed, splits)) continue;
    const path = clause.on === 'dim' ? `dim.${clause.dim}` : clause.on;
    const part = asked.parts.find((p) => p.control === path);
    if (part && !part.granted)
      found.push({ path, message: `without “${part.text}” it comes from sums, at once`, put: { [path]: [] } });
  }
  // Of a kind of account all that it is made of counts: equity has every year's result in it.
  for (const type of asked.figure.accounts === null && asked.weighsOwnLines ? ACCOUNT_TYPES : []) {
    const ofType = asked.narrowed({ accounts: parseSelection(`type ${type}`) });
    const lines = await bearingCount(ctx.read, ofType.questionToWeigh());
    if (lines > 0 && lines <= ctx.heavyLines)
      found.push({
        path: 'accounts',
        message: `${type} accounts alone have ${spokenRoughly(lines)} lines`,
        put: { accounts: [`type ${type}`] },
      });
  }
  if (found.length === 0)
    found.push({ path: 'accounts', message: 'name fewer accounts: lines are found by account and day' });
  return found;
}
