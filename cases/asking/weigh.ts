import { ProblemError } from '@/contracts/problem';
import type { Split } from '@/core/figure';
import { ACCOUNT_TYPES } from '@/core/ledger';
import { parseSelection } from '@/core/selection';
import { readsLines } from '@/store/figureSql';
import { bearingCount } from '@/store/weight';
import type { Context } from './context';
import type { ResolvedFigure } from './resolvedFigure';

/** Lines that are read and added up in a second, about: on two shared cores 1.7 million took 2.3 s, ten million 28 s. */
const LINES_A_SECOND = 500_000;

/**
 * Says that a question is heavy before it is run: one that sums cannot answer, and that has to read very many lines.
 * Whoever asks for it all the same has it run with more patience.
 * @returns the context to ask with
 * @throws ProblemError naming what would help, each with the parameters that do it
 */
export async function refuseIfHeavy(
  ctx: Context,
  asked: ResolvedFigure,
  splits: readonly Split[],
  heavy: 'run' | undefined,
): Promise<Context> {
  if (!readsLines(asked.question, splits)) return ctx;
  const lines = await bearingCount(ctx.read, asked.questionToWeigh());
  if (lines <= ctx.heavyLines) return ctx;
  if (heavy === 'run') return { ...ctx, read: ctx.patient };
  const many = asked.weighsOwnLines ? inWords(lines) : 'very many';
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
  asked: ResolvedFigure,
  splits: readonly Split[],
): Promise<ProblemError['errors']> {
  const found: ProblemError['errors'] = [];
  for (const clause of asked.figure.where) {
    const fewer = asked.narrowed({ where: asked.figure.where.filter((c) => c !== clause) });
    if (readsLines(fewer.question, splits)) continue;
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
        message: `${type} accounts alone have ${inWords(lines)} lines`,
        put: { accounts: [`type ${type}`] },
      });
  }
  if (found.length === 0)
    found.push({ path: 'accounts', message: 'name fewer accounts: lines are found by account and day' });
  return found;
}

const inWords = (lines: number): string =>
  lines >= 1_000_000 ? `${(lines / 1_000_000).toFixed(1)} million` : lines.toLocaleString('en');
