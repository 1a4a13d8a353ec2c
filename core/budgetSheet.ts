import { allot, formatAmount, parseAmount, sum } from './money';
import { typedAmount } from './writtenAmounts';

/**
 * A budget while it is being written: one decimal string for each account and period, empty where nothing is planned.
 * Rows are accounts in the order of the sheet, columns its periods.
 */
export interface CellAt {
  row: number;
  column: number;
}

export interface CellEdit extends CellAt {
  amount: string;
}

export interface Pasted {
  edits: CellEdit[];
  /** Cells of the clipboard that are no amount, or lie outside the sheet. */
  refused: { text: string; why: string }[];
}

/** Lays a block of the clipboard over the sheet from a cell on; one single cell fills all that are chosen. */
export function paste(
  block: readonly (readonly string[])[],
  from: CellAt,
  to: CellAt,
  size: { rows: number; columns: number },
  read: Read,
): Pasted {
  const single = block.length === 1 && block[0]?.length === 1 ? (block[0][0] as string) : null;
  const found: Pasted = { edits: [], refused: [] };
  const put = (row: number, column: number, text: string): void => {
    if (row >= size.rows || column >= size.columns) {
      found.refused.push({ text, why: `“${text}” lies beyond the sheet` });
      return;
    }
    try {
      found.edits.push({ row, column, amount: typedAmount(text, read.decimal, read.digits) });
    } catch (error) {
      found.refused.push({ text, why: (error as Error).message });
    }
  };
  if (single !== null)
    for (let row = from.row; row <= to.row; row++)
      for (let column = from.column; column <= to.column; column++) put(row, column, single);
  else
    for (const [i, cells] of block.entries())
      for (const [j, text] of cells.entries()) put(from.row + i, from.column + j, text);
  return found;
}

export interface Read {
  decimal: '.' | ',';
  digits: number;
}

/** A year's amount over its periods: as they are to each other already, else evenly; the parts sum to it exactly. */
export function spread(total: string, held: readonly string[], digits: number): string[] {
  const amount = parseAmount(total, digits);
  const sizes = held.map((text) => (text === '' ? 0 : Math.abs(parseAmount(text, digits))));
  const weights = sizes.some((s) => s > 0) ? sizes : sizes.map(() => 1);
  return allot(amount, weights).map((part) => (part === 0 ? '' : formatAmount(part, digits)));
}

/** Sum of cells; empty ones are nothing. */
export const totalOf = (cells: readonly string[], digits: number): string =>
  formatAmount(sum(cells.map((text) => (text === '' ? 0 : parseAmount(text, digits)))), digits);
