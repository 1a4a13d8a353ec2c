import type { ScopeParams } from '@/contracts/scope';
import { total } from '@/store/balances';
import type { Context } from './context';
import { resolveFigure } from './resolveFigure';
import { shown, tieOf } from './showAmounts';
import type { Viewer } from './viewer';
import { weighed } from './weigh';

/** Up to so many lines in the window, a strip is tied by counting its lines again. */
const RECOUNT_MAX = 5_000;

/** A figure as one row: what a strip of the thread shows of an ancestor. */
export async function readTotals(outer: Context, viewer: Viewer, params: ScopeParams) {
  const asked = await resolveFigure(outer, viewer, params);
  const ctx = await weighed(outer, asked, [], params.heavy);
  const { total: whole } = await total(ctx.read, asked.question);
  // A second answer from what lies beneath: the lines themselves, or the days where there are too many of them.
  const below = await total(ctx.read, asked.question, whole.count <= RECOUNT_MAX ? 'line' : 'balance_day');
  const { sentence, parts, address, currency } = asked;
  return { sentence, parts, address, currency, load: asked.question.asOf, total: shown(whole, asked.digits), tie: tieOf(whole, below.total, asked.digits) };
}
