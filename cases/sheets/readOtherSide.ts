import { ProblemError } from '@/contracts/problem';
import type { ScopeParams } from '@/contracts/scope';
import { add, formatAmount, type Minor } from '@/core/money';
import { ONE_BY_ONE_MAX, otherSideSums } from '@/store/otherSide';
import type { Context } from '../asking/context';
import { resolveFigure } from '../asking/resolveFigure';
import { spokenCount } from '../asking/spokenNumbers';
import { requireWhole, type Viewer } from '../asking/viewer';
import { figureTotal, mergedChart } from '../balances/accountBalances';

/** Where the other half of a figure's entries went, by account; totals to minus the figure's movement (method.md §8). */
export async function readOtherSide(ctx: Context, viewer: Viewer, params: ScopeParams) {
  requireWhole(viewer, 'The other side is');
  const asked = await resolveFigure(ctx, viewer, params);
  const { digits } = asked;
  const whole = await figureTotal(ctx, asked);
  const { db, question } = await asked.ask(ctx, []);
  if (!question.columns && whole.count > ONE_BY_ONE_MAX) {
    throw new ProblemError(422, 'This figure has too many lines to tell their other side at once', [
      {
        path: 'from',
        message: `it has ${spokenCount(whole.count)} lines, the most is ${spokenCount(ONE_BY_ONE_MAX)}; choose a shorter window or fewer accounts`,
      },
    ]);
  }
  const shares = new Map<string, { exact: Minor; shared: Minor }>();
  let sum: Minor = 0;
  for (const share of await otherSideSums(db, question)) {
    const held = shares.get(share.account) ?? { exact: 0, shared: 0 };
    if (share.exact) held.exact = add(held.exact, share.amount);
    else held.shared = add(held.shared, share.amount);
    shares.set(share.account, held);
    sum = add(sum, share.amount);
  }
  const names = new Map(mergedChart(asked).map((a) => [a.code, a.name]));
  const text = (amount: Minor): string => formatAmount(amount, digits);
  const off = add(sum, whole.movement);
  return {
    sentence: asked.sentence,
    parts: asked.parts,
    currency: asked.currency,
    rows: [...shares]
      .map(([account, { exact, shared }]) => ({ account, exact, shared, movement: add(exact, shared) }))
      .sort((a, b) => Math.abs(b.movement) - Math.abs(a.movement) || (a.account < b.account ? -1 : 1))
      .map((r) => ({
        account: r.account,
        name: names.get(r.account) ?? r.account,
        movement: text(r.movement),
        exact: text(r.exact),
        shared: text(r.shared),
      })),
    total: text(sum),
    tie: { ok: off === 0, offBy: text(off) },
  };
}
