import { ProblemError, wrong } from '@/contracts/problem';
import type { ScopeParams } from '@/contracts/scope';
import { readSplit } from '@/contracts/splits';
import type { Balance } from '@/core/balances';
import { comparedWindow } from '@/core/comparisons';
import { NONE } from '@/core/figure';
import { add, formatAmount, furthestOff, type Minor } from '@/core/money';
import { windowText } from '@/core/sentence';
import { amountIn, countIn } from '@/core/sheet';
import { type Moved, whatMoved } from '@/core/whatMoved';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { resolveFigure } from '../asking/resolveFigure';
import { tookTooLong } from '../asking/tookTooLong';
import type { Viewer } from '../asking/viewer';
import { figureTotal } from '../balances/accountBalances';
import { splitFigure } from './readSheet';

/** Members shown one by one; the rest are summed. */
const MOVERS_MAX = 40;

/**
 * What explains the change of a figure against another window (method.md §10): for every dimension at once the members
 * with their change, ranked, and the dimensions in order of how telling they are. The parts sum to the change exactly.
 */
export async function readWhatMoved(
  ctx: Context,
  viewer: Viewer,
  params: ScopeParams & { measure: 'movement' | 'closing'; against: 'year-before' | 'window-before' | 'last-year' },
) {
  const { measure, against, ...scope } = params;
  const asked = await resolveFigure(ctx, viewer, scope);
  const window = comparedWindow(asked.calendar, asked.figure.window, against);
  if (!window) throw wrong('against', 'the calendar has no such window to hold this one against');
  const sideOf = async (side: ResolvedFigure): Promise<Side> => ({
    asked: side,
    total: await figureTotal(ctx, side),
  });
  const former = asked.narrowed({ window });
  const [before, now] = await Promise.all([sideOf(former), sideOf(asked)]);
  const breakdowns = await Promise.all(
    splitsOf(asked).map(({ by, name }) => byMembers(ctx, { before, now, by, name, measure })),
  );
  const weighed = breakdowns.filter((t) => t.problem === null && t.moved !== null);
  const [one] = weighed;
  const whole = one ? add(one.now, -one.before) : 0;
  const off = furthestOff(weighed.map((t) => add(t.moved?.change ?? 0, -whole)));
  return {
    sentence: asked.sentence,
    currency: asked.currency,
    measure,
    now: windowText(asked.figure.window, asked.calendar),
    before: windowText(window, asked.calendar),
    totals: one
      ? {
          before: formatAmount(one.before, asked.digits),
          now: formatAmount(one.now, asked.digits),
          change: formatAmount(whole, asked.digits),
        }
      : null,
    /** Every dimension must tell the same change. */
    tie: one ? { ok: off === 0, offBy: formatAmount(off, asked.digits) } : null,
    dimensions: weighed
      .sort(
        (a, b) =>
          weightOf(a.moved) - weightOf(b.moved) || (a.moved?.concentration ?? 0) - (b.moved?.concentration ?? 0),
      )
      .map(({ by, name, moved, names, refine }) => ({
        by,
        name,
        members: moved?.movers.length ?? 0,
        concentration: moved?.concentration ?? 0,
        gross: formatAmount(moved?.gross ?? 0, asked.digits),
        movers: (moved?.movers ?? []).slice(0, MOVERS_MAX).map((m) => ({
          member: m.member,
          name: names.get(m.member) ?? m.member,
          is: m.is,
          refine: refine.get(m.member) ?? {},
          before: formatAmount(m.before, asked.digits),
          now: formatAmount(m.now, asked.digits),
          change: formatAmount(m.change, asked.digits),
          share: whole === 0 ? null : shareText(m.change, whole),
        })),
        rest: formatAmount(
          (moved?.movers ?? []).slice(MOVERS_MAX).reduce((all, m) => all + m.change, 0),
          asked.digits,
        ),
      })),
    notWeighed: breakdowns.flatMap(({ name, problem }) => (problem === null ? [] : [{ name, problem }])),
  };
}

/** What is under no member tells nothing, however much of the change it makes. */
const weightOf = (moved: Moved | null): number =>
  moved === null || moved.movers.slice(0, moved.concentration).every((m) => m.member === NONE) ? 2 : moved.weight;

/** Percent of the change with one decimal, half away from zero. */
function shareText(part: Minor, whole: Minor): string {
  const doubled = (2_000n * BigInt(part)) / BigInt(whole);
  const tenths = (doubled + (doubled < 0n ? -1n : 1n)) / 2n;
  return formatAmount(Number(tenths), 1);
}

/** Everything that a figure can be broken down by, unless it says only one of them already. */
function splitsOf({ figure, known, entities }: ResolvedFigure): { by: string; name: string }[] {
  const plain = [
    { by: 'account', name: 'Account' },
    ...(entities.length > 1 ? [{ by: 'entity', name: 'Entity' }] : []),
    { by: 'counterparty', name: 'Counterparty' },
    { by: 'journal', name: 'Journal' },
    { by: 'postedBy', name: 'Posted by' },
    { by: 'size', name: 'Amount band' },
  ];
  const dims = [...known.catalogue.dimensions.values()].map((d) => ({ by: `dim:${d.code}`, name: d.name }));
  const said = new Set(figure.where.flatMap((c) => ('dim' in c ? [`dim:${c.dim}`] : [])));
  return [...dims.filter((d) => !said.has(d.by)), ...plain];
}

/** The figure in one of the two windows. */
interface Side {
  asked: ResolvedFigure;
  total: Balance;
}

async function byMembers(
  ctx: Context,
  {
    before,
    now,
    by,
    name,
    measure,
  }: { before: Side; now: Side; by: string; name: string; measure: 'movement' | 'closing' },
) {
  const none = {
    by,
    name,
    names: new Map<string, string>(),
    refine: new Map<string, Record<string, string | string[]>>(),
    before: 0,
    now: 0,
    moved: null,
  };
  try {
    const split = readSplit(by);
    const sheetOf = (side: Side) => splitFigure(ctx, side.asked, [split], null, { known: side.total });
    const [then, today] = await Promise.all([sheetOf(before), sheetOf(now)]);
    const values = (sheet: typeof then): Map<string, Minor> =>
      new Map(
        sheet.rows
          .filter(({ cells }) => countIn(cells) > 0 || amountIn(cells, measure) !== 0)
          .map((r) => [r.member, amountIn(r.cells, measure)]),
      );
    const rows = [...then.rows, ...today.rows];
    return {
      ...none,
      names: new Map(rows.map((r) => [r.member, r.label])),
      refine: new Map(rows.map((r) => [r.member, r.refine])),
      before: before.total[measure],
      now: now.total[measure],
      moved: whatMoved(values(then), values(today)),
      problem: null,
    };
  } catch (error) {
    if (tookTooLong(error)) return { ...none, problem: 'too many lines to weigh while one waits; narrow the scope' };
    if (!(error instanceof ProblemError)) throw error;
    const told = error.kind === 'heavy' ? [] : error.errors.map((e) => e.message);
    return { ...none, problem: told.join('; ') || error.message };
  }
}
