import type { ScopeParams } from '@/contracts/scope';
import { type Ordinal, ordinal, parsePeriod } from '@/core/calendar';
import { formatAmount } from '@/core/money';
import { amountIn, asOne, countIn } from '@/core/sheet';
import { spread } from '@/core/whatMoved';
import type { Context } from '../asking/context';
import { shownProof } from '../asking/present';
import { resolveFigure } from '../asking/resolveFigure';
import type { Viewer } from '../asking/viewer';
import { periodEnds, periodsBefore } from './periodsBack';
import { splitFigure } from './readSheet';

/** A year more than is shown is read, to be held against. */
const YEAR_OF_PERIODS = 14;

/**
 * A figure by period up to the end of its window: its movement in each period, or its balance at the period's end, each
 * with the period a year before, and how far those before the window usually lie from their mean.
 */
export async function readOverTime(
  ctx: Context,
  viewer: Viewer,
  params: ScopeParams & { measure: 'movement' | 'closing'; periods: number },
) {
  const { measure, periods, ...scope } = params;
  const asked = await resolveFigure(ctx, viewer, scope, { translates: true });
  const { digits, sentence, currency } = asked;
  const ends = periodEnds(asked);
  const [first = ends.to] = periodsBefore(asked, ends.to, periods + YEAR_OF_PERIODS - 1);
  const wide = asked.narrowed({ window: { by: 'period', from: first, to: ends.to } });
  const sheet = await splitFigure(ctx, wide, [{ by: 'period' }], null);
  const all = sheet.rows.map((row) => ({
    row,
    at: parsePeriod(row.member) as Ordinal,
    value: amountIn(row.cells, measure),
  }));
  const byPeriod = new Map(all.map((p) => [p.at, p.value]));
  const shown = all.slice(-periods);
  const usual = spread(shown.filter((p) => p.at < ends.from).map((p) => p.value));
  const text = (minor: number): string => formatAmount(minor, digits);
  return {
    sentence,
    currency,
    load: asked.asOf,
    measure,
    tie: shownProof(asOne(sheet.proofs), digits),
    points: shown.map(({ row, at, value }) => {
      const before = byPeriod.get(at - ordinal(2001, 0));
      return {
        period: row.member,
        name: row.label,
        value: text(value),
        before: before === undefined ? null : text(before),
        count: countIn(row.cells),
        inWindow: at >= ends.from && at <= ends.to,
      };
    }),
    usual: usual && {
      mean: text(usual.mean),
      low: text(usual.mean - usual.deviation),
      high: text(usual.mean + usual.deviation),
    },
  };
}
