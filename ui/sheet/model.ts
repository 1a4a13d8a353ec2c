import type { Empty, SentencePart } from '@/contracts/answers/head';
import type { TestHit } from '@/contracts/answers/tests';
import type { Step } from '../address/address';
import type { Cell } from './cell';
import type { CellFigure } from './cellFigure';
import type { Column, GridRow } from './gridModel';
import type { Proof } from './proof';

/** Columns to compare with, and what they compare. */
export interface Compared {
  columns: string[];
  compare: 'movement' | 'closing';
}

/** With whom a line is, where and when it was booked. */
export interface Party {
  entity: string;
  code: string;
  account: string;
  date: string;
}

/** The document of a line, and the amounts of the line as they may stand on it. */
export interface Paper {
  entity: string;
  number: string;
  amounts: string[];
}

/** Another sheet that a row leads to, as a further step of the thread; or a place that is no sheet. */
export type SheetLink =
  | {
      name: string;
      step: Omit<Step, 'row' | 'column'>;
      /** It is of whole books: the clauses of the thread do not hold there. */
      whole?: boolean;
    }
  | { name: string; href: string };

/** A row that was looked for: where it is, and which of how many it is that fit. */
export interface FoundRow {
  row: number;
  number: number;
  of: number;
}

/** A row of any sheet: what it shows, what it is about, and where it leads. */
export interface SheetRow extends GridRow {
  /** What it is called, in a sentence. */
  label: string;
  /** What a note or a pin on it is about; null where there is nothing to keep. */
  subject: string | null;
  /** Scope parameters that ask for this row alone. */
  put: Record<string, string[]> | null;
  count?: number | undefined;
  /** Why it stands out, as sentences. */
  standsOut?: string[] | undefined;
  /** What is added up where rows are chosen together, by column, where it is not the amount that the cell shows. */
  amounts?: Record<string, string> | undefined;
  /** Scope parameters for the value of one cell alone, where it is not the row's own. */
  only?(column: string): Record<string, string[]> | null;
  /** The figure of one cell, where it is not the row's own; null where it is calculated from other figures. */
  figureAt?(column: string): CellFigure | null | undefined;
  /** The party of a line, whose usual accounts can be told. */
  party?: Party | undefined;
  /** The document behind a line, which can be read beside it. */
  paper?: Paper | undefined;
  /** What a test found, where the row is that. */
  hit?: TestHit | undefined;
  /** Other sheets that the row leads to, as further steps of the thread. */
  links?: SheetLink[] | undefined;
  /** The step that tracing from a column takes; null where the row cannot be opened further. */
  step(column: string): Step | null;
  /** What exactly a figure of it is. */
  say(column: string): string;
}

export interface SheetModel {
  label: string;
  columns: Column[];
  /** Key of the column in which the figure that was traced is the sum of the rows. */
  traced?: string | undefined;
  /** What its cells are of, where that is chosen on the sheet itself. */
  shows?: 'movement' | 'closing' | undefined;
  count: number;
  rowAt(index: number): SheetRow | undefined;
  /** Indices of the rows that are at hand; absent where all are. */
  loaded?: Iterable<number>;
  /** Where not all rows are at hand: asks for the next one, or the one before, that is called so; null: there is none. */
  seek?(text: string, from: number | null, way: 'next' | 'previous'): Promise<FoundRow | null>;
  /** Index of a row by its key, where all rows are at hand. */
  indexOf(key: string): number;
  total?: Record<string, Cell> | undefined;
  /** The total as a row below the others, where it can be traced and split. */
  whole?: SheetRow | undefined;
  parts: SentencePart[];
  /** Columns to compare with, and what they compare: the strips have them too. */
  compared?: Compared | undefined;
  /** Indices of the rows that stand out; absent where no rule looks at the sheet. */
  standingOut?: number[];
  /** What the interface is asked for all of it, where it leaves as a file. */
  path?: string | undefined;
  /** The load as of which it was read; absent until then. */
  load?: number | undefined;
  empty?: Empty | undefined;
  /** What proves it; null where nothing independent does. */
  tie: Proof | null;
  stale: boolean;
  loading: boolean;
  error: Error | null;
}
