import type { TickShape } from '@/contracts/work';
import type { Cell } from './cell';
import type { Ink } from './ink';

/** An amount of nine digits with its marks is never cut off. */
const AMOUNT_LEAST_PX = 112;

/** The width of a column of amounts. @param most pixels that it takes where there is room */
export const amountWidth = (most: number): string => `minmax(${AMOUNT_LEAST_PX}px, ${most}px)`;

export interface Column {
  key: string;
  label: string;
  /** CSS width of the grid track. */
  width: string;
  amount?: boolean;
  /** Its amounts are percent. */
  percent?: boolean;
  sortable?: boolean;
  /** What the column says, in plain words. */
  hint?: string;
  /** Shown only to who asks for it. */
  onRequest?: boolean;
}

export interface GridRow {
  key: string;
  cells: Record<string, Cell>;
  look?: 'heading' | 'quiet' | 'marked' | 'proposed' | 'subtotal' | 'total';
  depth?: number;
  /** null: nothing to fold; else whether it is folded. */
  folded?: boolean | null;
  marks?: readonly RowMark[];
  /** What Enter does, said to screen readers; absent where a row cannot be opened further. */
  opens?: boolean;
}

/** A sign in the edge of a row, and what it says. */
export interface RowMark {
  sign: '^' | '▪' | '≠' | '!' | '§' | '○' | '?' | '‡' | '±' | '↷' | 'tick';
  /** The shape of a tick, which is drawn. */
  drawn?: TickShape;
  says: string;
  /** More of it, on pointing at it. */
  why?: string | undefined;
  /** In whose ink it is written; absent: in the colour of what should be looked at. */
  ink?: Ink | undefined;
}

export interface Focus {
  row: number;
  column: number;
}

/** Numbers from one to another, both inclusive. */
export const between = (from: number, to: number): number[] =>
  Array.from({ length: Math.max(0, to - from + 1) }, (_, i) => from + i);

export interface GridHandle {
  scrollTo(row: number): void;
}
