import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import type { Value } from './sheet';
import { valueText } from './valueText';

/** What stands in a cell of a leaf: a value to the last unit, or its exact decimal string; words, a day (2026-04-30), or nothing. */
export type LeafCell = Value | { is: 'exact'; text: string } | string | null;

export interface LeafColumn {
  key: string;
  label: string;
  is: 'text' | 'date' | 'amount' | 'share' | 'count' | 'quantity';
  /** Decimals of its amounts (ISO 4217). */
  digits: number;
  /** Characters that it likes to have room for. */
  width: number;
  /** Whether its values add up: only then a total is what its rows come to. */
  adds: boolean;
  /** Whether it is what stood after each row, so that what a page carries forward is its last. */
  runs?: boolean;
  /** Where alone it is: on paper there is less room, and some columns stand together. */
  on?: 'file' | 'paper';
}

export interface LeafRow {
  key: string;
  depth: number;
  look: 'plain' | 'heading' | 'subtotal' | 'total';
  /** Whether it is one of the rows that the total adds up, and not what others come to. */
  counts: boolean;
  /** Whether it is what the rows below it that are deeper, or the rows that are named, come to. */
  sums: 'beneath' | readonly { row: string; times: 1 | -1 }[] | null;
  cells: Readonly<Record<string, LeafCell>>;
  /** What notes on it are about; null where there is nothing to write of. */
  subject: string | null;
  /** Notes and ticks that go with it. */
  notes?: readonly string[];
  /** Path and query of what is behind it (`/lines?…`, `/sheets?…`); null where nothing is. */
  behind: string | null;
}

/**
 * A sheet as it leaves: what it is, of what, and its rows, which may be millions and are read once. Spreadsheets, paper,
 * delimited text and frozen copies are all made of it.
 */
export interface Leaf {
  /** What it is called where nobody calls it otherwise. */
  title: string;
  /** The question, as one reads it. */
  sentence: string;
  /** What else must be said of it, each under its name: company, currency, load. */
  facts: readonly (readonly [name: string, says: string])[];
  columns: readonly LeafColumn[];
  rows: AsyncIterable<LeafRow> | readonly LeafRow[];
  /** What all of it comes to; null where the rows are not parts of one whole. */
  total: { label: string; cells: Readonly<Record<string, LeafCell>> } | null;
  /** What it was held against and whether it agrees, in words; of rows that are read as they come, asked for after the last. */
  proofs(): readonly string[];
  /** Whether notes and ticks go with its rows. */
  noted?: boolean;
  /** Where it is read live, from the root of the installation; null where no page shows it. */
  address: string | null;
}

/** A leaf as it stands in a file. */
export const onFile = (leaf: Leaf): Leaf => ({ ...leaf, columns: leaf.columns.filter((c) => c.on !== 'paper') });

/** Whether the rows are all at hand. */
export const isAtHand = (rows: Leaf['rows']): rows is readonly LeafRow[] => Array.isArray(rows);

/** A cell as an exact decimal string, or its words; null for nothing. Shares are percent with one decimal. */
export function plainCell(cell: LeafCell | undefined, digits: number): string | null {
  if (cell === null || cell === undefined) return null;
  if (typeof cell === 'string') return cell;
  return cell.is === 'exact' ? cell.text : valueText(cell, digits);
}

/** The cells of a row by their columns, as exact decimal strings or words. */
export const plainCells = (
  columns: readonly Pick<LeafColumn, 'key' | 'digits'>[],
  cells: Readonly<Record<string, LeafCell>>,
): Record<string, string | null> =>
  Object.fromEntries(columns.map(({ key, digits }) => [key, plainCell(cells[key], digits)]));

/** The load that a leaf was told of; 0 where it says none. */
export const loadOf = ({ facts }: Pick<Leaf, 'facts'>): number =>
  Number(facts.find(([name]) => name === 'As of load')?.[1] ?? 0);

/** A row as a digest sees it: a JSON array of its cells in the order of the columns, then a line feed. */
export const canonicalRow = (
  columns: readonly Pick<LeafColumn, 'key' | 'digits'>[],
  cells: Readonly<Record<string, LeafCell>>,
): string => `${JSON.stringify(columns.map((c) => plainCell(cells[c.key], c.digits)))}\n`;

/**
 * SHA-256 (FIPS 180-4) over what a leaf says: its sentence, the heads of its columns, its rows in order and its total.
 * Fed row by row, so that a leaf of millions is never held.
 */
export class LeafDigest {
  private readonly hash = sha256.create();
  private readonly columns: readonly LeafColumn[];

  constructor({ sentence, columns }: Pick<Leaf, 'sentence' | 'columns'>) {
    // On paper and in a file it is the same leaf.
    this.columns = columns.filter((c) => c.on !== 'paper');
    this.hash.update(utf8ToBytes(`${JSON.stringify([sentence, ...this.columns.map((c) => c.label)])}\n`));
  }

  row(cells: Readonly<Record<string, LeafCell>>): void {
    this.hash.update(utf8ToBytes(canonicalRow(this.columns, cells)));
  }

  /** @returns 64 hexadecimal digits */
  end(total: Leaf['total']): string {
    if (total) this.row(total.cells);
    return bytesToHex(this.hash.digest());
  }
}

/** Follows what passes by and says at its end what its digest is. */
export function digested(leaf: Leaf): { leaf: Leaf; digest: () => string } {
  const digest = new LeafDigest(leaf);
  let ended: string | null = null;
  const rows = async function* (): AsyncGenerator<LeafRow> {
    for await (const row of leaf.rows) {
      digest.row(row.cells);
      yield row;
    }
    ended = digest.end(leaf.total);
  };
  return {
    leaf: { ...leaf, rows: rows() },
    digest: () => {
      if (ended === null) throw new Error('a leaf has its digest once its last row was read');
      return ended;
    },
  };
}
