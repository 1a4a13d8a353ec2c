import { wrong } from '@/contracts/problem';
import type { ScopeParams } from '@/contracts/scope';
import { formatAmount } from '@/core/money';
import { aroundLimits, MORE, moreBeneath, NEAR_BEGINNINGS } from '@/core/tests/limits';
import { beginningsOfLines, sizesOfLines } from '@/store/pictures';
import type { Context } from '../asking/context';
import { resolveFigure } from '../asking/resolveFigure';
import { typedAmount } from '../asking/typedAmount';
import type { Viewer } from '../asking/viewer';
import { drawnOf } from './drawn';

/** A step is so much of the limit, and so many are drawn on either side of it. */
const STEP = 100;
const STEPS = 20;
/** So many limits are told, those under which most more lines lie than above. */
const TOLD = 8;

/** How many lines of a figure are of which size around a limit, which is given, or the one that the lines themselves crowd under. */
export async function readSizes(
  ctx: Context,
  viewer: Viewer,
  { limit: typed, ...params }: ScopeParams & { limit?: string | undefined },
) {
  const asked = await resolveFigure(ctx, viewer, params);
  const { digits } = asked;
  const [one, ...others] = [...new Set(asked.entities.map((e) => e.currency))];
  if (others.length > 0)
    throw wrong(
      'entity',
      `sizes are told in one currency, and these companies have ${[one, ...others].join(', ')}; choose those of one`,
    );
  const { db, question } = await asked.ask(ctx, [{ by: 'size' }]);
  const limits = aroundLimits(await beginningsOfLines(db, question, NEAR_BEGINNINGS))
    .map((f) => ({ ...f, more: moreBeneath(f.beneath, f.above) }))
    .sort((a, b) => b.more - a.more || b.limit - a.limit)
    .slice(0, TOLD);
  const limit = typed === undefined ? limits[0]?.limit : typedAmount(typed, digits, 'limit');
  if (limit !== undefined && limit < STEP)
    throw wrong('limit', `write a limit of ${formatAmount(STEP, digits)} at the least`);
  const step = Math.trunc((limit ?? STEP) / STEP);
  const from = (limit ?? 0) - STEPS * step;
  const rows = limit === undefined ? [] : await sizesOfLines(db, question, { step, from, to: limit + STEPS * step });
  const lines = new Map(rows.map((r) => [r.at, r.lines]));
  const text = (minor: number): string => formatAmount(minor, digits);
  const bar = (n: number) => ({
    ...{ from: text(from + n * step), to: text(from + (n + 1) * step - 1), lines: lines.get(n) ?? 0 },
    beneath: n < STEPS,
  });
  return {
    ...{ ...drawnOf(asked), currency: asked.currency },
    limit: limit === undefined ? null : text(limit),
    bars: limit === undefined ? [] : Array.from({ length: 2 * STEPS }, (_, n) => bar(n)),
    limits: limits.map((l) => ({
      ...{ limit: text(l.limit), beneath: l.beneath, above: l.above },
      /** So many standard deviations more lie beneath it than above. */
      ...{ more: l.more, stands: l.more >= MORE },
    })),
  };
}
