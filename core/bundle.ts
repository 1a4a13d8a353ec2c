import { figureDigest, type LineContent } from './digest';
import { byLedgerOrder } from './evaluate';
import { add, type Minor } from './money';

/** A thread as it leaves: its record, its figures, and the lines that these are of, so that all is worked out anew without us. */
export interface Bundle {
  version: 1;
  /** The record of the thread, as its page shows it. */
  thread: BundledThread;
  figures: BundledFigure[];
  /** Every line that is inside, told apart by its number, which is its place. */
  lines: BundledLine[];
  /** Names of accounts by company and code, and of members by dimension and code. */
  accounts: Record<string, Record<string, string>>;
  dimensions: { code: string; name: string; members: Record<string, string> }[];
  /** The files that the lines came with, by their SHA-256. */
  loads: { load: number; file: string; sha256: string | null }[];
  files: { path: string; name: string; label: string; by: string }[];
  made: { by: string; at: string; record: string; source: string };
  /** What is not inside, each a sentence. */
  leftOut: string[];
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
  }[];
  signOffs: { as: string; by: string; at: string; digest: string; ended: string | null }[];
}

/** A line in all that its digest looks at, and what else is read of it. Amounts are in minor units, debit positive. */
export interface BundledLine extends LineContent {
  counterpartyName: string | null;
  members: Record<string, string>;
  day: string;
  load: number;
}

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
  /** Lines by number, in ledger order: [first, last] of each run. */
  runs: [number, number][];
  count: number;
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

export const linesIn = ({ lines }: Pick<Bundle, 'lines'>, { runs }: Pick<BundledFigure, 'runs'>): BundledLine[] =>
  runs.flatMap(([first, last]) => lines.slice(first, last + 1));

/** The measure of a figure from what was there before and its lines (method.md §4). */
export function measured(
  figure: Pick<BundledFigure, 'measure' | 'opening' | 'roll'>,
  lines: readonly BundledLine[],
): Minor {
  let [debit, credit]: Minor[] = [0, 0];
  for (const { side, amount } of lines) {
    const size = amount as Minor;
    if (side === 'debit') debit = add(debit as Minor, size);
    else credit = add(credit as Minor, -size);
  }
  const movement = add(debit as Minor, -(credit as Minor));
  const values: Record<Measured, Minor> = {
    opening: figure.opening,
    debit: debit as Minor,
    credit: credit as Minor,
    movement,
    closing: add(add(figure.opening, movement), figure.roll),
  };
  return values[figure.measure];
}

/** Works a figure out again from the lines inside, and holds it against what the bundle says. */
export function performed(bundle: Pick<Bundle, 'lines'>, figure: BundledFigure): Performed {
  const lines = linesIn(bundle, figure);
  const digest = figureDigest(figure.opening);
  for (const line of lines) digest.update(line);
  const value = measured(figure, lines);
  const hex = digest.hex();
  return {
    value,
    count: lines.length,
    digest: hex,
    ok: value === figure.value && lines.length === figure.count && hex === figure.digest,
  };
}

/** What lines can be split by in a bundle. */
export const SPLITS = ['account', 'period', 'day', 'journal', 'counterparty', 'postedBy', 'document', 'entry'] as const;

export interface BundledPart {
  key: string;
  debit: Minor;
  credit: Minor;
  movement: Minor;
  lines: BundledLine[];
}

/** Lines broken down by one thing; the parts add up to the whole, since each line is in one of them. */
export function partsOf(lines: readonly BundledLine[], by: string): BundledPart[] {
  const parts = new Map<string, BundledPart>();
  for (const line of lines) {
    const value = by.startsWith('dim:') ? line.members[by.slice('dim:'.length)] : line[by as keyof LineContent];
    const key = value === null || value === undefined ? '' : String(value);
    const part = parts.get(key) ?? { key, debit: 0, credit: 0, movement: 0, lines: [] };
    const amount = line.amount as Minor;
    if (line.side === 'debit') part.debit = add(part.debit, amount);
    else part.credit = add(part.credit, -amount);
    part.movement = add(part.movement, amount);
    part.lines.push(line);
    parts.set(key, part);
  }
  return [...parts.values()].sort((a, b) => (a.key < b.key ? -1 : 1));
}

/** All lines inside that are of the entry of a line, in its order. */
export const entryOf = ({ lines }: Pick<Bundle, 'lines'>, line: BundledLine): BundledLine[] =>
  lines
    .filter((l) => l.entity === line.entity && l.entry === line.entry)
    .sort((a, b) => byLedgerOrder(a as never, b as never));

/** A way down from a figure: the part that was taken at each split. */
export type Way = readonly { by: string; key: string }[];

/** The lines at the end of a way down from a figure. */
export const tracedTo = (bundle: Bundle, figure: BundledFigure, way: Way): BundledLine[] =>
  way.reduce<BundledLine[]>(
    (lines, { by, key }) => partsOf(lines, by).find((part) => part.key === key)?.lines ?? [],
    linesIn(bundle, figure),
  );
