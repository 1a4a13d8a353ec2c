import type { Ordinal } from './calendar';
import { addDays, type DateText, mondayOf } from './dates';
import { type Account, beneath, type LineKind, lineage, type Tree } from './ledger';
import type { Minor } from './money';
import { accountsIn, parseSelection, type Selection } from './selection';
import { bandOf } from './sizes';
import { exactly, oneValue, type Range, type ValueTest, valuePicked } from './values';

/** A window of time: whole fiscal periods (each entity by its own calendar) or dates; both ends inclusive. */
export type Window =
  | { by: 'period'; from: Ordinal; to: Ordinal; fromFirst?: boolean; endsAtLines?: true }
  | { by: 'date'; from: DateText; to: DateText; fromFirst?: boolean };

/** One choice on a dimension: a member with all below it, the member alone, or no member at all. */
export type MemberPick = { is: 'tree'; code: string } | { is: 'direct'; code: string } | { is: 'none' };

import type { Attribute, LineNumber } from './lineFields';

export { ATTRIBUTES, type Attribute, isAttribute, LINE_NUMBERS, type LineNumber } from './lineFields';

export interface TickedLine {
  entity: string;
  entry: string;
  line: number;
  id: number;
}

/** One condition on lines. All clauses of a figure hold together. With `not`, lines of which the rest does not hold. */
export type Clause =
  | { on: 'dim'; dim: string; any: MemberPick[]; not?: true }
  | { on: Attribute; any: (ValueTest | null)[]; not?: true }
  | { on: LineNumber; any: (Range | null)[]; not?: true }
  | { on: 'kind'; any: LineKind[] }
  | { on: 'period'; any: Ordinal[] }
  | { on: 'month'; any: string[] }
  | { on: 'day'; any: DateText[] }
  /** ISO 8601 weeks, such as 2026-W31. */
  | { on: 'week'; any: string[] }
  | { on: 'min'; amount: Minor }
  | { on: 'max'; amount: Minor }
  /** Amounts whose first digits, without sign and noughts before them, are these: one digit or two. */
  | { on: 'begins'; any: string[] }
  /** Lines of entries that were entered on such days of the week, or in such hours (core/enteredWhen). */
  | { on: 'enteredWhen'; any: string[] }
  | { on: 'text'; contains: string }
  /** Lines that bear a tick, which were looked for when it was asked: by the numbers that they bear, and their entry's id. */
  | { on: 'ticked'; lines: readonly TickedLine[]; not?: true }
  /** Lines of entries that have one of these accounts on the other side. */
  | { on: 'opposite'; any: string[] };

/** The set of proposed entries that counts where none is named. */
export const FIRST_SET = 'corrections';

/** A number with its whole question (method.md §5), but for the measure, which each answer gives all of. */
export interface Figure {
  entities: string[];
  /** null: all accounts. */
  accounts: Selection | null;
  window: Window;
  adjustments: 'with' | 'without';
  status: 'posted' | 'all' | 'unposted';
  where: Clause[];
  /** Income and expense when they are settled, instead of when they are booked. */
  accounting?: 'cash';
  /** What is proposed counts with what is booked, or alone; absent: as booked. */
  basis?: 'with-proposed' | 'proposed' | undefined;
  /** Sets of proposed entries that count; there with a basis. */
  sets?: string[] | undefined;
  /** Number of a past load to ask as of; null: the newest. */
  load: number | null;
}

/** What a figure can be broken down by. */
export type Split =
  | { by: 'account' | 'type' | 'entity' | 'period' | 'month' | 'week' | 'day' | 'kind' | 'size' }
  | { by: Attribute }
  /** Accounts by their headings so many levels from the top of the chart, counted from one; a shallower account stands for itself. */
  | { by: 'heading'; level: number }
  /**
   * Members of a dimension: the topmost ones, those beneath one of them, or those so many levels from the top, counted
   * from one, where what is booked above that level stands for itself.
   */
  | { by: 'dim'; dim: string; under: string | null; level?: number };

/** Keys of rows that are no member: nothing given, and booked on the parent itself. */
export const NONE = '~none';
export const DIRECT = '~direct';
/** Before the code of a member above the level that is split by: what is booked on itself. */
export const DIRECTLY_ON = `${DIRECT}:`;

/** What refine must know of the ledger: the chart (for types) and the dimension trees. */
export interface Names {
  chart: readonly Account[];
  trees: ReadonlyMap<string, Tree>;
}

/** A period split of a whole-period window, or a month, week or day split of dates, narrows the window itself. */
export const splitsWindow = (window: Window, split: Split): boolean =>
  window.by === 'period' ? split.by === 'period' : split.by === 'month' || split.by === 'week' || split.by === 'day';

/**
 * The figure of one member of a split: every clause kept, one added (method.md §5, law 2).
 * @param key the member's code, NONE, or DIRECT; for time splits a period ordinal, a month, a week or a day as text; for
 *   sizes see core/sizes
 */
export function refine(figure: Figure, split: Split, key: string, names: Names): Figure {
  switch (split.by) {
    case 'account':
      return { ...figure, accounts: { take: [{ is: 'code', code: key }], except: [] } };
    case 'type':
      return { ...figure, accounts: withinType(figure.accounts, key, names.chart) };
    case 'heading':
      return { ...figure, accounts: withinHeading(figure.accounts, key, names.chart) };
    case 'entity':
      return { ...figure, entities: [key] };
    case 'period':
    case 'month':
    case 'week':
    case 'day':
      return refineTime(figure, split.by, key);
    case 'dim': {
      return narrowDimension(figure, split.dim, [memberAsked(split, key)], names.trees);
    }
    case 'size':
      return withinSize(figure, key);
    case 'kind':
      return narrowed(figure, { on: 'kind', any: [key as LineKind] });
    default:
      return narrowed(figure, { on: split.by, any: [valueAsked(key)] });
  }
}

/**
 * The figure of some members of a split together, and what is left of it without them, each asked by itself. Where the
 * split narrows the window, what is left is what was booked before them and after them.
 * @param members all members of the split in their order, of which `taken` follow one another
 * @returns null where members of the split cannot be told together by a clause
 */
export function together(
  figure: Figure,
  split: Split,
  members: readonly string[],
  taken: { from: number; to: number },
  names: Names,
): { within: Figure; without: Figure[] } | null {
  const keys = members.slice(taken.from, taken.to);
  const rest = [members.slice(0, taken.from), members.slice(taken.to)];
  switch (split.by) {
    case 'account':
    case 'heading':
    case 'type': {
      const codes = ofCodes([
        ...new Set(
          keys.flatMap((key) => [...accountsIn(refine(figure, split, key, names).accounts ?? ALL, names.chart)]),
        ),
      ]);
      const held = figure.accounts ?? ALL;
      const left = { ...figure, accounts: { take: held.take, except: [...held.except, ...codes.take] } };
      return { within: { ...figure, accounts: codes }, without: [left] };
    }
    case 'entity':
      return {
        within: { ...figure, entities: keys },
        without: rest.filter((some) => some.length > 0).map((some) => ({ ...figure, entities: some })),
      };
    case 'size':
      return null;
    case 'period':
    case 'month':
    case 'week':
    case 'day':
    case 'kind': {
      const of = (some: readonly string[]): Figure[] =>
        some.length === 0 ? [] : [ofTimes(figure, split, some, names)];
      const [within] = of(keys);
      return within ? { within, without: rest.flatMap(of) } : null;
    }
    case 'dim': {
      const any = keys.map((key) => memberAsked(split, key));
      return {
        within: narrowDimension(figure, split.dim, any, names.trees),
        without: [{ ...figure, where: [...figure.where, { on: 'dim', dim: split.dim, any, not: true }] }],
      };
    }
    default:
      return ofValues(figure, split.by, keys.map(valueAsked));
  }
}

/** The figure of lines that have one of some values of an attribute, and that of all others. */
export function ofValues(
  figure: Figure,
  on: Attribute,
  any: (ValueTest | null)[],
): { within: Figure; without: Figure[] } {
  const held = { ...figure, where: [...figure.where, { on, any }] };
  return { within: held, without: [{ ...figure, where: [...figure.where, { on, any, not: true }] }] };
}

/** Members of time, or kinds of lines, that follow one another: one window from the first to the last, or a clause. */
function ofTimes(figure: Figure, split: Split, keys: readonly string[], names: Names): Figure {
  const [first, last] = [keys[0] as string, keys.at(-1) as string].map((key) => refine(figure, split, key, names));
  if (!first || !last) return figure;
  if (splitsWindow(figure.window, split))
    return { ...figure, window: { ...first.window, to: last.window.to } as Window };
  const values = split.by === 'period' ? keys.map(Number) : keys;
  return narrowed(figure, { on: split.by, any: values } as Extract<Clause, { any: unknown[] }>);
}

const ALL: Selection = { take: [], except: [] };

const valueAsked = (key: string): ValueTest | null => (key === NONE ? null : key.startsWith('~') ? key : exactly(key));

function memberAsked(split: Extract<Split, { by: 'dim' }>, key: string): MemberPick {
  if (key === NONE) return { is: 'none' };
  if (key === DIRECT) return { is: 'direct', code: split.under as string };
  return key.startsWith(DIRECTLY_ON)
    ? { is: 'direct', code: key.slice(DIRECTLY_ON.length) }
    : { is: 'tree', code: key };
}

/** The figure that a split breaks down: `dim:x/M` looks inside M alone. */
export function splitWhole(figure: Figure, split: Split, names: Names): Figure {
  if (split.by !== 'dim' || split.under === null) return figure;
  return narrowDimension(figure, split.dim, [{ is: 'tree', code: split.under }], names.trees);
}

/** Does a member code (null: none) satisfy the picks? */
export function memberPicked(picks: readonly MemberPick[], code: string | null, tree: Tree): boolean {
  return picks.some((pick) => {
    if (pick.is === 'none') return code === null;
    if (code === null) return false;
    return pick.is === 'direct' ? code === pick.code : lineage(tree, code).includes(pick.code);
  });
}

/** All member codes that a pick stands for. */
export function membersOf(pick: MemberPick, tree: Tree): Set<string> {
  if (pick.is === 'none') return new Set();
  return pick.is === 'direct' ? new Set([pick.code]) : beneath(tree, pick.code);
}

/** Adds a clause of values; where there is one of its kind, only what both allow is left. */
function narrowed(figure: Figure, clause: Extract<Clause, { any: unknown[] }>): Figure {
  const held = figure.where.find((c) => c.on === clause.on && !('not' in c && c.not));
  const others = figure.where.filter((c) => c !== held);
  if (!held || !('any' in held)) return { ...figure, where: [...others, clause] };
  const allowed: unknown[] = held.any;
  const both = clause.any.filter(
    (v) => allowed.includes(v) || (typeof v === 'string' && valuePicked(allowed as (ValueTest | null)[], oneValue(v))),
  );
  return { ...figure, where: [...others, { ...clause, any: both } as Clause] };
}

/** Lines of a band of sizes, and of whatever bounds there were. */
function withinSize(figure: Figure, key: string): Figure {
  const band = bandOf(key);
  const bound = (on: 'min' | 'max', mine: Minor | null, keep: (a: number, b: number) => number): Clause[] => {
    const held = figure.where.flatMap((c) => (c.on === on ? [c.amount] : []));
    const all = mine === null ? held : [...held, mine];
    return all.length === 0 ? [] : [{ on, amount: all.reduce((a, b) => keep(a, b)) }];
  };
  const others = figure.where.filter((c) => c.on !== 'min' && c.on !== 'max');
  return { ...figure, where: [...others, ...bound('min', band.from, Math.max), ...bound('max', band.to, Math.min)] };
}

function refineTime(figure: Figure, by: 'period' | 'month' | 'week' | 'day', key: string): Figure {
  const { window } = figure;
  if (window.by === 'period' && by === 'period') {
    const period = Number(key);
    return { ...figure, window: { by: 'period', from: period, to: period } };
  }
  if (window.by === 'date' && by !== 'period') {
    const first = by === 'month' ? `${key}-01` : by === 'week' ? mondayOf(key) : key;
    const last = by === 'month' ? lastDayOf(key) : by === 'week' ? addDays(first, 6) : key;
    const from = first < window.from ? window.from : first;
    const to = last > window.to ? window.to : last;
    return { ...figure, window: { by: 'date', from, to } };
  }
  if (by === 'period') return narrowed(figure, { on: 'period', any: [Number(key)] });
  return narrowed(figure, { on: by, any: [key] });
}

function lastDayOf(month: string): DateText {
  const [year, number] = month.split('-').map(Number) as [number, number];
  return new Date(Date.UTC(year, number, 0)).toISOString().slice(0, 10);
}

/** The figure within some members of a dimension: what both these and its own clause allow. */
export function narrowDimension(
  figure: Figure,
  dim: string,
  picks: readonly MemberPick[],
  trees: ReadonlyMap<string, Tree>,
): Figure {
  const tree = trees.get(dim) ?? new Map();
  const before = figure.where.find((c) => c.on === 'dim' && c.dim === dim && !c.not);
  const any =
    before?.on === 'dim'
      ? before.any.flatMap((held) => picks.flatMap((pick) => intersection(held, pick, tree)))
      : [...picks];
  const others = figure.where.filter((c) => c !== before);
  return { ...figure, where: [...others, { on: 'dim', dim, any: distinct(any) }] };
}

/** Two picks on one dimension at once: the narrower one, or nothing. */
function intersection(a: MemberPick, b: MemberPick, tree: Tree): MemberPick[] {
  if (a.is === 'none' || b.is === 'none') return a.is === b.is ? [a] : [];
  if (a.is === 'direct') return memberPicked([b], a.code, tree) ? [a] : [];
  if (memberPicked([a], b.code, tree)) return [b];
  return b.is === 'tree' && memberPicked([b], a.code, tree) ? [a] : [];
}

function distinct(picks: MemberPick[]): MemberPick[] {
  const seen = new Set<string>();
  return picks.filter((p) => {
    const key = JSON.stringify(p);
    return !seen.has(key) && seen.add(key);
  });
}

function withinType(held: Selection | null, type: string, chart: readonly Account[]): Selection {
  const ofType = parseSelection(`type ${type}`);
  if (held === null) return ofType;
  const types = new Map(chart.map((a) => [a.code, a.type]));
  return ofCodes([...accountsIn(held, chart)].filter((code) => types.get(code) === type));
}

function withinHeading(held: Selection | null, heading: string, chart: readonly Account[]): Selection {
  const beneathIt: Selection = { take: [{ is: 'code', code: heading }], except: [] };
  if (held === null) return beneathIt;
  const both = accountsIn(beneathIt, chart);
  return ofCodes([...accountsIn(held, chart)].filter((code) => both.has(code)));
}

/** These accounts and no others; of none, a selection that takes nothing. */
const ofCodes = (codes: string[]): Selection =>
  codes.length === 0
    ? { take: [], except: [{ is: 'pattern', pattern: '*' }] }
    : { take: codes.sort().map((code) => ({ is: 'code', code })), except: [] };
