import { figureDigest, type LineContent } from './digest';
import { byLedgerOrder } from './evaluate';
import { add, type Minor } from './money';

/** A thread as it leaves: its record, its figures, and the lines that these are of, so that all is worked out anew without us. */
export interface Bundle {
  version: 2;
  /** The record of the thread, as its page shows it. */
  thread: BundledThread;
  figures: BundledFigure[];
  /** Tables that belong to what was gathered: what tests found, items of samples, findings in full. */
  sheets: BundledSheet[];
  /** How many lines are inside, told apart by their numbers. They lie in parts, each of so many in the order of their numbers. */
  lines: number;
  parts: { file: string; count: number }[];
  /** Names of accounts by company and code, of parties by code, and of members by dimension and code. */
  accounts: Record<string, Record<string, string>>;
  parties: Record<string, string>;
  dimensions: { code: string; name: string; members: Record<string, string> }[];
  /** The files that the lines came with, by their SHA-256. */
  loads: { load: number; file: string; sha256: string | null }[];
  files: { path: string; name: string; label: string; by: string }[];
  made: { by: string; at: string; record: string; source: string };
  /** What is not inside, each a sentence. */
  leftOut: string[];
}

/** So many lines lie in each part but the last. */
export const PART_LINES = 20_000;

/** A table as it is read: amounts as exact decimal strings. */
export interface BundledSheet {
  key: string;
  title: string;
  heads: { label: string; figures: boolean }[];
  rows: string[][];
  /** What was left out of it, or else is to be said of it. */
  note: string;
}

export interface BundledThread {
  name: string;
  reference: string;
  purpose: string;
  result: string;
  conclusion: string;
  state: string;
  steps: {
    id: number;
    parent: number | null;
    label: string;
    note: string;
    by: string;
    at: string;
    figure: string | null;
  }[];
  gathered: {
    kind: string;
    label: string;
    says: string;
    by: string;
    at: string;
    state: string;
    figure: string | null;
    /** The key of the sheet that belongs to it. */
    sheet: string | null;
  }[];
  signOffs: { as: string; by: string; at: string; digest: string; ended: string | null }[];
}

/** A line in all that its digest looks at, and what else is read of it. Amounts are in minor units, debit positive. */
export interface BundledLine extends LineContent {
  members: Record<string, string>;
  day: string;
  load: number;
}

/** Lines by number: [first, last] of each run. */
export type Runs = readonly (readonly [first: number, last: number])[];

export const MEASURED = ['opening', 'debit', 'credit', 'movement', 'closing'] as const;
export type Measured = (typeof MEASURED)[number];

export interface BundledFigure {
  key: string;
  label: string;
  sentence: string;
  measure: Measured;
  currency: string;
  digits: number;
  /** As of which load it was asked. */
  load: number;
  value: Minor;
  /** What was there before its lines; what years that ended took to retained earnings. */
  opening: Minor;
  roll: Minor;
  /** Its lines, in ledger order. */
  runs: Runs;
  count: number;
  /** The lines of which its opening, and what was rolled, are the sums; null where these are stated alone. */
  before: { opening: Runs; rolledIn: Runs; rolledOut: Runs; count: number } | null;
  /** SHA-256 over opening and lines (core/digest). */
  digest: string;
}

/** What a figure comes to, worked out of the lines inside. */
export interface Performed {
  value: Minor;
  count: number;
  digest: string;
  ok: boolean;
}

/** Gives the lines of a part by its place. */
export type PartAt = (part: number) => Promise<readonly BundledLine[]>;

/** Lines of some runs, a few at a time, so that no more than a part is at hand. */
export async function* linesOf(runs: Runs, partAt: PartAt): AsyncGenerator<readonly BundledLine[]> {
  for (const [first, last] of runs)
    for (let at = first; at <= last; ) {
      const part = Math.floor(at / PART_LINES);
      const lines = await partAt(part);
      const from = part * PART_LINES;
      const to = Math.min(last, from + PART_LINES - 1);
      yield lines.slice(at - from, to - from + 1);
      at = to + 1;
    }
}

interface Sums {
  debit: Minor;
  credit: Minor;
  movement: Minor;
  count: number;
}

const nothing = (): Sums => ({ debit: 0, credit: 0, movement: 0, count: 0 });

function addLine(to: Sums, { side, amount }: Pick<BundledLine, 'side' | 'amount'>): void {
  const size = amount as Minor;
  if (side === 'debit') to.debit = add(to.debit, size);
  else to.credit = add(to.credit, -size);
  to.movement = add(to.movement, size);
  to.count += 1;
}

/** The measure of a figure from what was there before and its lines (method.md §4). */
function measured({ measure, opening, roll }: Pick<BundledFigure, 'measure' | 'opening' | 'roll'>, sums: Sums): Minor {
  return measure === 'opening'
    ? opening
    : measure === 'closing'
      ? add(add(opening, sums.movement), roll)
      : sums[measure];
}

async function sumOf(runs: Runs, partAt: PartAt): Promise<Minor> {
  const sums = nothing();
  for await (const lines of linesOf(runs, partAt)) for (const line of lines) addLine(sums, line);
  return sums.movement;
}

/** Works a figure out again from the lines inside, and holds it against what the bundle says. */
export async function performed(figure: BundledFigure, partAt: PartAt): Promise<Performed> {
  const digest = figureDigest(figure.opening);
  const sums = nothing();
  for await (const lines of linesOf(figure.runs, partAt))
    for (const line of lines) {
      digest.update(line);
      addLine(sums, line);
    }
  const value = measured(figure, sums);
  const hex = digest.hex();
  const { before } = figure;
  const begun =
    before === null ||
    ((await sumOf(before.opening, partAt)) === figure.opening &&
      add(await sumOf(before.rolledIn, partAt), -(await sumOf(before.rolledOut, partAt))) === figure.roll);
  return {
    ...{ value, count: sums.count, digest: hex },
    ok: begun && value === figure.value && sums.count === figure.count && hex === figure.digest,
  };
}

/** What lines can be split by in a bundle. */
export const SPLITS = ['account', 'period', 'day', 'journal', 'counterparty', 'postedBy', 'document', 'entry'] as const;

export interface BundledPart extends Sums {
  key: string;
}

/** The part that a line is in, of a split. */
function keyOf(line: BundledLine, by: string): string {
  const value = by.startsWith('dim:') ? line.members[by.slice('dim:'.length)] : line[by as keyof LineContent];
  return value === null || value === undefined ? '' : String(value);
}

/** A way down from a figure: its own lines, or those before them; and the part that was taken at each split. */
export interface Way {
  of: 'lines' | 'before';
  steps: readonly { by: string; key: string }[];
}

const runsOn = (figure: BundledFigure, { of }: Way): Runs =>
  of === 'lines' ? figure.runs : (figure.before?.opening ?? []);

const isOn = (line: BundledLine, { steps }: Way): boolean => steps.every(({ by, key }) => keyOf(line, by) === key);

/** Lines at the end of a way, broken down by one thing; the parts add up to the whole, since each line is in one of them. */
export async function partsOn(figure: BundledFigure, way: Way, by: string, partAt: PartAt): Promise<BundledPart[]> {
  const parts = new Map<string, BundledPart>();
  for await (const lines of linesOf(runsOn(figure, way), partAt))
    for (const line of lines) {
      if (!isOn(line, way)) continue;
      const key = keyOf(line, by);
      const part = parts.get(key) ?? { key, ...nothing() };
      addLine(part, line);
      parts.set(key, part);
    }
  return [...parts.values()].sort((a, b) => (a.key < b.key ? -1 : 1));
}

export interface LinesOn {
  lines: BundledLine[];
  /** What all of them come to, those that are not given with them. */
  total: Sums;
}

/** The first lines at the end of a way, and what all of them come to. */
export async function linesOn(figure: BundledFigure, way: Way, most: number, partAt: PartAt): Promise<LinesOn> {
  const found: LinesOn = { lines: [], total: nothing() };
  for await (const lines of linesOf(runsOn(figure, way), partAt))
    for (const line of lines) {
      if (!isOn(line, way)) continue;
      addLine(found.total, line);
      if (found.lines.length < most) found.lines.push(line);
    }
  return found;
}

/** All lines inside that are of an entry, in its order. */
export async function entryOf(
  { parts }: Pick<Bundle, 'parts'>,
  { entity, entry }: { entity: string; entry: string },
  partAt: PartAt,
): Promise<BundledLine[]> {
  const found: BundledLine[] = [];
  for (const at of parts.keys())
    for (const line of await partAt(at)) if (line.entity === entity && line.entry === entry) found.push(line);
  return found.sort((a, b) => byLedgerOrder(a as never, b as never));
}

const HELD = 12;

/** Parts as they are asked for, of which the last few stay at hand. */
export function heldParts(read: PartAt): PartAt {
  const held = new Map<number, Promise<readonly BundledLine[]>>();
  return (part) => {
    const found = held.get(part) ?? read(part);
    held.delete(part);
    held.set(part, found);
    const [oldest] = held.keys();
    if (held.size > HELD && oldest !== undefined) held.delete(oldest);
    return found;
  };
}
