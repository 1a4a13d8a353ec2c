import {
  addBalance,
  addOwn,
  addRetained,
  type Balance,
  emptyBalance,
  isEmpty,
  type Part,
  type PartSum,
} from './balances';
import { DIRECT, DIRECTLY_ON, isAttribute, NONE, type Split, splitsWindow, type Window } from './figure';
import { ACCOUNT_TYPES, lineage, type Tree } from './ledger';
import { exactly } from './values';

/** Lines of one part and one combination of split keys, added up. */
export interface SplitSum extends PartSum {
  entity: string;
  /** Fiscal year that the lines lie in; of no meaning in part 0. */
  year: number;
  /** Lines of adjustment periods that the figure leaves out, but that the opening of a later part of it has. */
  adjusting: boolean;
  /** One raw key per split: account code, member code, …; null: none. */
  keys: (string | null)[];
}

export interface SplitRow {
  member: string;
  /** Members from the outermost split to this row. */
  path: string[];
  depth: number;
  balance: Balance;
  /** What the rows one level below it come to, to be held against its balance; null where there are none. */
  parts: Balance | null;
  /** With a split across: one balance per column, in the order of the sheet's columns. */
  cells: Balance[];
}

export interface SplitParts {
  rows: SplitRow[];
  columns: string[];
  /** Sum of the rows, to be held against the figure's own value (law 1). */
  sum: Balance;
}

export interface SplitQuestion {
  splits: Split[];
  across: Split | null;
  window: Window;
  /** Trees of the dimensions, and the chart's under CHART where headings are asked for. */
  trees: ReadonlyMap<string, Tree>;
  /** Retained earnings account of each entity whose retained earnings the figure selects. */
  retained: ReadonlyMap<string, string>;
  /** First and last fiscal year that a time member touches in an entity's calendar. */
  yearsOf(entity: string, split: Split, key: string): [number, number];
  /** Time members to show although nothing was booked in them. */
  frame(split: Split): string[];
}

/** Under what name the chart of accounts is among the trees; no dimension can have it. */
export const CHART = '~chart';

/** A sheet with columns of time, without the first of them in which nothing moved: only the opening balance was made there. */
export function fromFirstMoved<
  Cell,
  Column extends { total: { count: number } },
  Row extends { cells?: Cell[] },
  Sheet extends { columns: Column[]; rows: Row[] },
>(sheet: Sheet): Sheet {
  const first = sheet.columns.findIndex((c) => c.total.count > 0);
  if (first <= 0) return sheet;
  return {
    ...sheet,
    columns: sheet.columns.slice(first),
    rows: sheet.rows.map((row) => ({ ...row, cells: row.cells?.slice(first) ?? [] })),
  };
}

/** Groups sums into the rows of a sheet, nested as the splits are; children add up to their parent. */
export function splitOf(sums: readonly SplitSum[], question: SplitQuestion): SplitParts {
  const { splits, across, window } = question;
  const contributions = contributionsOf(sums, question);
  const columns = across ? keysAt(contributions, across, splits.length, question) : [];
  const by = {
    groups: (held: Contribution[], split: Split, level: number) => groups(held, split, level, question),
    total,
  };
  const found = nested(contributions, splits, across, columns, by, (split) => splitsWindow(window, split));
  const first = splits[0];
  if (first !== undefined && splitsWindow(window, first)) {
    // Opening balances of consecutive periods must not be summed; only what was booked in them is.
    const { opening, roll, closing } = total(contributions);
    Object.assign(found.sum, { opening, roll, closing });
  }
  return found;
}

/** What is told by the account of a line. */
export const isOfAccounts = ({ by }: Split): boolean => by === 'account' || by === 'heading' || by === 'type';

/** A balance that was calculated by itself, with one raw key per split. */
export interface Leaf {
  keys: (string | null)[];
  balance: Balance;
}

/** The sum of the rows one level below a row. Openings of successive windows are no parts of a whole: of those, the row's own. */
function partsOf(
  below: readonly SplitRow[],
  row: SplitRow,
  split: Split | undefined,
  inTime: (split: Split) => boolean,
): Balance | null {
  if (split === undefined || below.length === 0) return null;
  const parts = emptyBalance();
  for (const child of below) if (child.depth === row.depth + 1) addBalance(parts, child.balance);
  if (!inTime(split)) return parts;
  const { opening, roll, closing } = row.balance;
  return { ...parts, opening, roll, closing };
}

/** The same of balances that were calculated one by one, such as translated ones; no split of them is of time. */
export function splitOfBalances(
  leaves: readonly Leaf[],
  { splits, across, trees }: Pick<SplitQuestion, 'splits' | 'across' | 'trees'>,
): SplitParts {
  const by = {
    groups: (held: readonly Leaf[], split: Split, level: number) => grouped(held, split, level, trees),
    total: (held: readonly Leaf[]) => {
      const balance = emptyBalance();
      for (const leaf of held) addBalance(balance, leaf.balance);
      return balance;
    },
  };
  const columns = across ? by.groups(leaves, across, splits.length).map(([key]) => key) : [];
  return nested(leaves, splits, across, columns, by, () => false);
}

/**
 * Rows within rows, as the splits are.
 * @param keeps whether a member of the split is shown although it holds nothing
 */
function nested<Held>(
  whole: readonly Held[],
  splits: readonly Split[],
  across: Split | null,
  columns: string[],
  by: {
    groups(held: readonly Held[], split: Split, level: number): [string, Held[]][];
    total(held: readonly Held[]): Balance;
  },
  keeps: (split: Split) => boolean,
): SplitParts {
  const rows: SplitRow[] = [];
  const descend = (held: readonly Held[], level: number, above: string[]): void => {
    const split = splits[level];
    if (!split) return;
    for (const [member, mine] of by.groups(held, split, level)) {
      const balance = by.total(mine);
      if (isEmpty(balance) && !keeps(split)) continue;
      const cells = new Map(across ? by.groups(mine, across, splits.length) : []);
      const path = [...above, member];
      const row: SplitRow = {
        member,
        path,
        depth: level,
        balance,
        parts: null,
        cells: columns.map((column) => by.total(cells.get(column) ?? [])),
      };
      rows.push(row);
      const first = rows.length;
      descend(mine, level + 1, path);
      row.parts = partsOf(rows.slice(first), row, splits[level + 1], keeps);
    }
  };
  descend(whole, 0, []);
  const sum = emptyBalance();
  for (const row of rows) if (row.depth === 0) addBalance(sum, row.balance);
  return { rows, columns, sum };
}

/** Leaves of anything else that can be put together, by the path of each row of a sheet split alike, and of the whole. */
export function byRow<Kept>(
  leaves: readonly { keys: (string | null)[]; kept: Kept }[],
  { splits, trees }: Pick<SplitQuestion, 'splits' | 'trees'>,
  together: (all: Kept[]) => Kept,
): { rows: Map<string, Kept>; whole: Kept } {
  const rows = new Map<string, Kept>();
  const descend = (held: readonly { keys: (string | null)[]; kept: Kept }[], level: number, above: string[]): void => {
    const split = splits[level];
    if (!split) return;
    for (const [member, mine] of grouped(held, split, level, trees)) {
      const path = [...above, member];
      rows.set(pathKey(path), together(mine.map((leaf) => leaf.kept)));
      descend(mine, level + 1, path);
    }
  };
  descend(leaves, 0, []);
  return { rows, whole: together(leaves.map((leaf) => leaf.kept)) };
}

/** A path as one key. */
export const pathKey = (path: readonly string[]): string => path.join('\n');

interface Contribution {
  sum: SplitSum;
  as: 'own' | 'retained';
  keys: (string | null)[];
  /** The part within the member of a time split; the sum's own part elsewhere. */
  part: Part;
  rolls: boolean;
  /** Lines of left-out adjustment periods count only before a member of a time split. */
  counted: boolean;
}

function contributionsOf(sums: readonly SplitSum[], question: SplitQuestion): Contribution[] {
  const splits = question.across ? [...question.splits, question.across] : question.splits;
  const found: Contribution[] = [];
  for (const sum of sums) {
    const { part, rolls } = sum;
    const counted = !sum.adjusting;
    if (sum.own) found.push({ sum, as: 'own', keys: sum.keys, part, rolls, counted });
    const retained = question.retained.get(sum.entity);
    if (retained === undefined || !sum.temporary) continue;
    found.push({ sum, as: 'retained', keys: retainedKeys(sum, splits, retained), part, rolls, counted });
  }
  return found;
}

/** Results of ended years are in the retained earnings account, which is equity. */
const retainedKeys = (sum: SplitSum, splits: Split[], account: string): (string | null)[] =>
  sum.keys.map((key, i) =>
    splits[i]?.by === 'account' || splits[i]?.by === 'heading' ? account : splits[i]?.by === 'type' ? 'equity' : key,
  );

function total(contributions: readonly Contribution[]): Balance {
  const balance = emptyBalance();
  for (const c of contributions) {
    if (!c.counted) continue;
    const sum = { ...c.sum, part: c.part, rolls: c.rolls };
    if (c.as === 'own') addOwn(balance, sum);
    else addRetained(balance, sum);
  }
  return balance;
}

const groups = (
  held: readonly Contribution[],
  split: Split,
  level: number,
  question: SplitQuestion,
): [string, Contribution[]][] =>
  splitsWindow(question.window, split)
    ? timeGroups(held, split, level, question)
    : grouped(held, split, level, question.trees);

/** What falls under each member of a split, in order; what is outside of it is left out. */
function grouped<Held extends { keys: (string | null)[] }>(
  held: readonly Held[],
  split: Split,
  level: number,
  trees: ReadonlyMap<string, Tree>,
): [string, Held[]][] {
  const found = new Map<string, Held[]>();
  for (const c of held) {
    const key = memberKey(split, c.keys[level] ?? null, trees);
    if (key === null) continue;
    const list = found.get(key);
    if (list) list.push(c);
    else found.set(key, [c]);
  }
  return [...found].sort(([a], [b]) => memberOrder(split, a, b));
}

/** Each member of a time split is a window of its own: what is before it is its opening. */
function timeGroups(
  held: readonly Contribution[],
  split: Split,
  level: number,
  question: SplitQuestion,
): [string, Contribution[]][] {
  const keys = keysAt(held, split, level, question);
  return keys.map((key) => {
    const mine: Contribution[] = [];
    for (const c of held) {
      const at = c.part >= 2 ? (c.keys[level] as string) : '';
      if (later(split, at, key)) continue;
      const [firstYear, lastYear] = question.yearsOf(c.sum.entity, split, key);
      const rolls = lastYear > firstYear;
      const within = at === key;
      const part: Part =
        c.part === 0 || c.sum.year < firstYear ? 0 : !within ? 1 : rolls && c.sum.year < lastYear ? 2 : 3;
      mine.push({ ...c, part, rolls, counted: !c.sum.adjusting || c.sum.year < firstYear });
    }
    return [key, mine];
  });
}

function keysAt(held: readonly Contribution[], split: Split, level: number, question: SplitQuestion): string[] {
  if (!splitsWindow(question.window, split)) return groups(held, split, level, question).map(([key]) => key);
  const keys = new Set(level === 0 || split === question.across ? question.frame(split) : []);
  for (const c of held) if (c.part >= 2 && c.counted) keys.add(c.keys[level] as string);
  return [...keys].sort((a, b) => memberOrder(split, a, b));
}

const later = (split: Split, at: string, key: string): boolean => at !== '' && memberOrder(split, at, key) > 0;

function memberKey(split: Split, raw: string | null, trees: ReadonlyMap<string, Tree>): string | null {
  if (split.by === 'heading' && raw !== null) {
    const path = lineage(trees.get(CHART) ?? new Map(), raw);
    return path[Math.max(0, path.length - split.level)] as string;
  }
  // A text of a line may look like a key of its own.
  if (isAttribute(split.by)) return raw === null ? NONE : raw.startsWith('~') ? exactly(raw) : raw;
  if (split.by !== 'dim') return raw ?? NONE;
  if (raw === null) return split.under === null ? NONE : null;
  const path = lineage(trees.get(split.dim) ?? new Map(), raw);
  if (split.level !== undefined)
    return path.length < split.level ? DIRECTLY_ON + raw : (path[path.length - split.level] as string);
  if (split.under === null) return path[path.length - 1] as string;
  const at = path.indexOf(split.under);
  return at === -1 ? null : at === 0 ? DIRECT : (path[at - 1] as string);
}

/** In what order two members of a split are. */
export function memberOrder(split: Split, a: string, b: string): number {
  if (split.by === 'type') return ACCOUNT_TYPES.indexOf(a as never) - ACCOUNT_TYPES.indexOf(b as never);
  if (split.by === 'period') return Number(a) - Number(b);
  return rank(a) - rank(b) || (a < b ? -1 : a > b ? 1 : 0);
}

const rank = (key: string): number => (key === DIRECT ? -1 : key === NONE ? 1 : 0);
