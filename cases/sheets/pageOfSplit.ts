import { parsePeriod } from '@/core/calendar';
import { daysBetween } from '@/core/dates';
import { type Figure, isAttribute, ofValues, type Split, splitsWindow, together } from '@/core/figure';
import { ACCOUNT_TYPES, LINE_KINDS, lineage, type Tree } from '@/core/ledger';
import { accountsIn } from '@/core/selection';
import { memberOrder } from '@/core/split';
import { exactly } from '@/core/values';
import { copiedOf } from '@/store/answer';
import { SUMS_MAX } from '@/store/balances';
import { differentIn, membersIn } from '@/store/columns/members';
import { bearingCount } from '@/store/weight';
import type { Context } from '../asking/context';
import { shownKey } from '../asking/memberNames';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { mergedChart } from '../balances/accountBalances';
import { membersOfSplit } from '../balances/splitParts';

/** A split into no more rows than this is answered whole; of one with others within it, no more rows than the second. */
const WHOLE_MAX = 2_000;
const NESTED_WHOLE_MAX = 3_000;
/** How many members a page has. Where each has others within it, so many that there are about as many rows as the second. */
const FIRST = 200;
const NESTED_ROWS = 2_000;
/** More rows than this are not answered at once, however many members are asked for. */
const NESTED_ROWS_MAX = 20_000;

/** So many sums, of members and what is within them, are put together at once; a line may be in two parts of time. */
const SUMS_AT_ONCE = SUMS_MAX / 3;

/** A page of a split that has very many rows. */
interface PageOfSplit {
  /** The figure as far as the page goes. */
  shown: ResolvedFigure;
  /** All of it that is on other pages: figures that add up to it. */
  others: ResolvedFigure[];
  /** The member after which the next page begins; null: there is none. */
  next: string | null;
  /** Whether the members are windows of time that follow one another, of which openings are no parts of a whole. */
  inTime: boolean;
}

/**
 * A figure within the members of one page, where a split has so many rows that nobody reads them at once: documents,
 * entries, descriptions, or accounts within each of many days. The page is a scope like any other, so that its rows trace
 * and compare as rows do. Members of texts of which nothing was booked in the window are on no page: they are among the others.
 * @param after the member that the page before ended with
 * @returns null where the split is answered whole
 */
export async function pageOfSplit(
  ctx: Context,
  asked: ResolvedFigure,
  splits: readonly Split[],
  params: { after?: string | null | undefined; first?: number | undefined },
): Promise<PageOfSplit | null> {
  const [split, ...within] = splits;
  if (!split || (within.length === 0 && !isAttribute(split.by))) return null;
  const { db, question } = await asked.ask(ctx, splits);
  const copied = copiedOf(db, question);
  const atMost = (one: Split): Promise<number> | number =>
    isAttribute(one.by) ? (copied ? differentIn(copied, one.by) : Number.POSITIVE_INFINITY) : membersAtMost(asked, one);
  const inner = (await Promise.all(within.map(atMost))).reduce((all, n) => all * Math.max(1, n), 1);
  const most = await atMost(split);
  if (isAttribute(split.by)) {
    const whole = within.length > 0 ? NESTED_WHOLE_MAX : WHOLE_MAX;
    if (!copied || most * inner <= whole) return null;
    const lines = await bearingCount(ctx.read, asked.questionToWeigh());
    if (lines <= whole) return null;
    const size = sizeOf(within, inner, params.first);
    const { members, ended } = await membersIn(copied, split.by, params.after ?? null, size);
    if (ended && params.after == null) return null;
    const any = [...members.map(exactly), ...(ended ? [null] : [])];
    return paged(asked, split, ofValues(asked.figure, split.by, any), ended ? null : (members.at(-1) ?? null));
  }
  // Sums are of the members that are booked on, of which many may lie beneath one that is shown.
  const inTree = split.by === 'dim' ? (asked.known.catalogue.trees.get(split.dim)?.size ?? 0) : 0;
  if (asked.translates || Math.max(most, inTree) * inner <= NESTED_WHOLE_MAX) return null;
  if ((await bearingCount(ctx.read, asked.questionToWeigh())) <= NESTED_WHOLE_MAX) return null;
  const members = await membersOfSplit(ctx, asked, split);
  const beneath = Math.max(1, Math.ceil(inTree / Math.max(1, members.length)));
  const few = members.length * inner <= NESTED_WHOLE_MAX && members.length * beneath * inner <= SUMS_AT_ONCE;
  if (few || members.length < 2) return null;
  const from = placeAfter(members, split, params.after ?? null);
  const atOnce = Math.max(1, Math.floor(SUMS_AT_ONCE / (beneath * inner)));
  const to = Math.min(members.length, from + Math.min(atOnce, sizeOf(within, inner, params.first)));
  if (from === 0 && to === members.length) return null;
  const names = { chart: mergedChart(asked), trees: asked.known.catalogue.trees };
  const both = together(asked.figure, split, members, { from, to }, names);
  return both && paged(asked, split, both, to === members.length ? null : shownKey(split, members[to - 1] as string));
}

const paged = (
  asked: ResolvedFigure,
  split: Split,
  { within, without }: { within: Figure; without: Figure[] },
  next: string | null,
): PageOfSplit => ({
  shown: asked.narrowed(within),
  others: without.map((figure) => asked.narrowed(figure)),
  next,
  inTime: splitsWindow(asked.figure.window, split),
});

/** How many members a page has. */
function sizeOf(within: readonly Split[], inner: number, first: number | undefined): number {
  if (within.length === 0) return first ?? FIRST;
  const rows = (many: number): number => Math.max(1, Math.min(FIRST, Math.floor(many / inner)));
  return first === undefined ? rows(NESTED_ROWS) : Math.min(first, rows(NESTED_ROWS_MAX));
}

/** Where the members begin that come after one. */
function placeAfter(members: readonly string[], split: Split, after: string | null): number {
  if (after === null) return 0;
  const key = split.by === 'period' ? String(parsePeriod(after) ?? after) : after;
  const at = members.findIndex((member) => memberOrder(split, member, key) > 0);
  return at < 0 ? Math.max(0, members.length - 1) : at;
}

/** How many members a split can have at the most that is not of what lines say of themselves, without asking. */
function membersAtMost(asked: ResolvedFigure, split: Split): number {
  const { figure, known } = asked;
  switch (split.by) {
    case 'account':
    case 'heading': {
      const chart = mergedChart(asked);
      return figure.accounts ? accountsIn(figure.accounts, chart).size : chart.length;
    }
    case 'dim': {
      const tree = known.catalogue.trees.get(split.dim) ?? new Map();
      return membersShown(tree, split) + 1;
    }
    case 'type':
      return ACCOUNT_TYPES.length;
    case 'kind':
      return LINE_KINDS.length;
    case 'entity':
      return figure.entities.length;
    case 'size':
      return SIZES;
    default:
      return timesAtMost(asked, split.by as 'period' | 'month' | 'week' | 'day');
  }
}

/** No currency has more bands of amounts than this. */
const SIZES = 12;

function membersShown(tree: Tree, { under, level }: Extract<Split, { by: 'dim' }>): number {
  let shown = 0;
  for (const { code, parent } of tree.values()) {
    if (level !== undefined ? lineage(tree, code).length <= level : parent === under) shown++;
  }
  return shown;
}

/** Days of each member of time, and how many a year has at the most. */
const LENGTHS = { period: 28, month: 28, week: 7, day: 1 };

function timesAtMost({ figure, entities, known }: ResolvedFigure, by: keyof typeof LENGTHS): number {
  const reaches = entities.flatMap((e) => known.extents.get(e.code) ?? []);
  const days = reaches.flatMap((e) => [e.firstDay, e.lastDay]).sort();
  let [from, to] = [days[0], days.at(-1)];
  if (!from || !to) return 1;
  if (figure.window.by === 'date') {
    if (figure.window.from > from) from = figure.window.from;
    if (figure.window.to < to) to = figure.window.to;
  } else {
    const years = Math.floor(figure.window.to / 100) - Math.floor(figure.window.from / 100) + 1;
    const most = Math.ceil((years * 366) / LENGTHS[by]) + 3 * years;
    return Math.min(most, Math.ceil(daysBetween(from, to) / LENGTHS[by]) + 3 * years + 2);
  }
  return Math.ceil(Math.max(0, daysBetween(from, to)) / LENGTHS[by]) + 2;
}
