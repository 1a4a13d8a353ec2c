import { wrong } from '@/contracts/problem';
import type { ScopeParams } from '@/contracts/scope';
import type { PartOfLines } from '@/contracts/traced';
import type { Balance } from '@/core/balances';
import { formatAmount } from '@/core/money';
import { total } from '@/store/balances';
import { otherSource } from '@/store/figureSql';
import type { Context } from '../asking/context';
import { headOf, printerOf, shown, tieOf } from '../asking/present';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { resolveFigure } from '../asking/resolveFigure';
import type { Viewer } from '../asking/viewer';
import { figureBalance } from '../balances/accountBalances';
import { carriesOpening, type Openings, withoutOpening } from '../balances/carriedOpening';
import { comparedTotals, type Measure } from '../balances/comparedSplit';
import { partOfAllLines } from './partsOfLines';

/** Up to so many lines in the window, a strip is tied by counting its lines again. */
const RECOUNT_MAX = 5_000;

/** A figure as one row: what a strip of the thread shows of an ancestor. */
export async function readTotals(
  ctx: Context,
  viewer: Viewer,
  params: ScopeParams & {
    column?: string[] | undefined;
    compare?: Measure | undefined;
    openings?: Openings | undefined;
    part?: PartOfLines | undefined;
  },
) {
  const asked = await resolveFigure(ctx, viewer, params, { translates: true });
  if (params.part && asked.translates) throw wrong('part', 'parts of lines are in the currency of the books');
  const part = params.part && (await partOfAllLines(ctx, asked, params.part));
  const compared = params.column && (await comparedTotals(ctx, asked, params.column, params.compare ?? 'movement'));
  const values = compared && printerOf(compared.columns, asked.digits)(compared.cells);
  const head = {
    ...headOf(asked),
    ...(values ? { values } : {}),
    ...(part === undefined ? {} : { part: part === null ? null : formatAmount(part, asked.digits) }),
  };
  if (!asked.translates) {
    const { whole, again } = await twice(ctx, asked);
    return {
      ...head,
      total: shown(carriesOpening(asked.figure, asked, params.openings) ? whole : withoutOpening(whole), asked.digits),
      tie: again && tieOf(whole, again, asked.digits),
    };
  }
  return { ...head, total: shown(await figureBalance(ctx, asked), asked.digits), tie: await tieOfBooks(ctx, asked) };
}

/** The figure, and a second answer from another table: the lines themselves, or the days where there are too many of them. */
async function twice(ctx: Context, asked: ResolvedFigure): Promise<{ whole: Balance; again: Balance | null }> {
  const { db, question } = await asked.ask(ctx, []);
  const { total: whole } = await total(db, question);
  const other = otherSource(question, whole.count <= RECOUNT_MAX);
  return { whole, again: other && (await total(db, question, other)).total };
}

/** A translated figure ties where the books do that it was translated from, each in its own currency. */
async function tieOfBooks(ctx: Context, asked: ResolvedFigure) {
  let proved = true;
  for (const { code, currency } of asked.entities) {
    const own = asked.narrowed({ entities: [code] }, currency);
    const { whole, again } = await twice(ctx, own);
    const tie = again && tieOf(whole, again, own.digits);
    if (tie === null) proved = false;
    else if (!tie.ok) return tie;
  }
  return proved ? { ok: true, offBy: formatAmount(0, asked.digits) } : null;
}
