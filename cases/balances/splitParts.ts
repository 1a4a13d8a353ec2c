import { wrong } from '@/contracts/problem';
import type { Balance } from '@/core/balances';
import { calendar, yearOf } from '@/core/calendar';
import { firstOfMonth } from '@/core/dates';
import { refine, type Split, splitWhole } from '@/core/figure';
import type { Tree } from '@/core/ledger';
import { CHART, type SplitParts, type SplitQuestion, splitOf } from '@/core/split';
import { splitSums, TooManyRowsError } from '@/store/balances';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { knownMembers } from '../asking/viewer';
import { figureTotal, mergedChart } from './accountBalances';
import { translatedSplit } from './translatedSplit';

/** The figure that splits break down, where one of them looks inside a member alone. */
export function wholeOf(outer: ResolvedFigure, splits: readonly Split[]): ResolvedFigure {
  const names = { chart: mergedChart(outer), trees: outer.known.catalogue.trees };
  const whole = splits.reduce((f, s) => splitWhole(f, s, names), outer.figure);
  return whole === outer.figure ? outer : outer.narrowed(whole);
}

/**
 * The rows of a figure that is broken down, and its own value, asked apart from them.
 * @param known the figure's own value, where it is at hand
 */
export async function splitParts(
  ctx: Context,
  asked: ResolvedFigure,
  splits: Split[],
  across: Split | null,
  known?: Balance,
): Promise<[SplitParts, Balance]> {
  if (asked.translates) return translatedSplit(ctx, asked, splitQuestionOf(asked, splits, across));
  return Promise.all([splitOfSums(ctx, asked, splits, across), known ?? figureTotal(ctx, asked)]);
}

/** The rows of a figure whose books need no translation. @throws ProblemError where there are too many */
export async function splitOfSums(
  ctx: Context,
  asked: ResolvedFigure,
  splits: Split[],
  across: Split | null,
): Promise<SplitParts> {
  const all = across ? [...splits, across] : splits;
  const { db, question } = await asked.ask(ctx, all);
  const sums = await splitSums(db, question, all).catch((error: unknown) => {
    if (error instanceof TooManyRowsError)
      throw wrong('by', `${error.message}; narrow the scope or split by less at once`);
    throw error;
  });
  return splitOf(sums, splitQuestionOf(asked, splits, across));
}

/** The members of a split as its rows would be, in their order. */
export async function membersOfSplit(ctx: Context, asked: ResolvedFigure, split: Split): Promise<string[]> {
  const { rows } = await splitOfSums(ctx, asked, [split], null);
  return rows.map(({ member }) => member);
}

export function checkSplits(splits: Split[], { known, viewer }: ResolvedFigure): void {
  for (const split of splits) {
    if (split.by !== 'dim') continue;
    const dimension = known.catalogue.dimensions.get(split.dim);
    if (!dimension)
      throw wrong(
        'by',
        `there is no dimension “${split.dim}”; there are ${[...known.catalogue.dimensions.keys()].join(', ') || 'none'}`,
      );
    const members = knownMembers(viewer, split.dim, dimension.tree) ?? dimension.tree;
    if (split.under !== null && !members.has(split.under)) {
      throw wrong('by', `there is no ${dimension.name.toLowerCase()} “${split.under}”`);
    }
  }
}

/** The chart of accounts as a tree; a parent that it does not have is none. */
export function chartTree(asked: ResolvedFigure): Tree {
  const chart = mergedChart(asked);
  const codes = new Set(chart.map((a) => a.code));
  return new Map(
    chart.map((a) => [
      a.code,
      { code: a.code, name: a.name, parent: a.parent !== null && codes.has(a.parent) ? a.parent : null },
    ]),
  );
}

function splitQuestionOf(asked: ResolvedFigure, splits: Split[], across: Split | null): SplitQuestion {
  const { figure, entities, books } = asked;
  const { window } = figure;
  const calendars = new Map(entities.map((e) => [e.code, calendar(e.calendar)]));
  return {
    splits,
    across,
    window,
    trees: [...splits, across].some((s) => s?.by === 'heading')
      ? new Map([...asked.known.catalogue.trees, [CHART, chartTree(asked)]])
      : asked.known.catalogue.trees,
    retained: new Map(books.filter((e) => e.retained).map((e) => [e.entity.code, e.entity.retainedEarnings])),
    yearsOf(entity, split, key) {
      if (split.by === 'period') return [yearOf(Number(key)), yearOf(Number(key))];
      const cal = calendars.get(entity) as ReturnType<typeof calendar>;
      const refined = refine(figure, split, key, { chart: [], trees: new Map() }).window;
      return [cal.periodAt(refined.from as string).year, cal.periodAt(refined.to as string).year];
    },
    frame: (split) => frameOf(split, asked, [...calendars.values()]),
  };
}

/** Time members that are shown although nothing was booked in them. */
const FRAME_MAX = 400;

/** All periods or months of the window up to the last that holds lines, so that a row of nothing shows as such. */
function frameOf(
  split: Split,
  { figure, entities, known }: ResolvedFigure,
  calendars: ReturnType<typeof calendar>[],
): string[] {
  const { window } = figure;
  const keys = new Set<string>();
  for (const [i, cal] of calendars.entries()) {
    const reach = known.extents.get(entities[i]?.code ?? '');
    if (!reach) continue;
    if (window.by === 'period' && split.by === 'period') {
      const last = Math.min(window.to, reach.lastPeriod);
      for (let year = yearOf(window.from); year <= yearOf(last) && keys.size < FRAME_MAX; year++) {
        for (const p of cal.periodsOf(year))
          if (!p.adjustment && p.ordinal >= window.from && p.ordinal <= last) keys.add(String(p.ordinal));
      }
    }
    if (window.by === 'date' && split.by === 'month') {
      const last = (window.to < reach.lastDay ? window.to : reach.lastDay).slice(0, 7);
      for (let month = window.from.slice(0, 7); month <= last && keys.size < FRAME_MAX; month = monthAfter(month))
        keys.add(month);
    }
  }
  return [...keys];
}

const monthAfter = (month: string): string =>
  firstOfMonth(Number(month.slice(0, 4)), Number(month.slice(5)) + 1).slice(0, 7);
