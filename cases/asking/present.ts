import type { Balance } from '@/core/balances';
import { formatAmount } from '@/core/money';
import { agreement, balanceIn, type Cells, type Proof } from '@/core/sheet';
import { valueText } from '@/core/valueText';
import type { ResolvedFigure } from './resolvedFigure';

/** What every answer about a figure begins with. */
export const headOf = (asked: ResolvedFigure) => ({
  sentence: asked.sentence,
  parts: asked.parts,
  address: asked.address,
  currency: asked.currency,
  translated: asked.translates,
  load: asked.asOf,
});

/** A balance as it crosses the API: decimal strings, and the count of lines. */
export interface ShownBalance {
  opening: string;
  debit: string;
  credit: string;
  movement: string;
  roll: string;
  closing: string;
  count: number;
}

export function shown(balance: Balance, digits: number): ShownBalance {
  const { opening, debit, credit, movement, roll, closing, count } = balance;
  const text = (amount: number): string => formatAmount(amount, digits);
  return {
    opening: text(opening),
    debit: text(debit),
    credit: text(credit),
    movement: text(movement),
    roll: text(roll),
    closing: text(closing),
    count,
  };
}

/** What a balance is made of, from the cells of a row. */
export const shownCells = (cells: Cells, digits: number): ShownBalance => shown(balanceIn(cells), digits);

/** A proof as it is answered. */
export const shownProof = ({ ok, off }: Proof, digits: number): { ok: boolean; offBy: string } => ({
  ok,
  offBy: formatAmount(off, digits),
});

/** Whether parts equal the whole, and by how much not: the worst difference among the measures. */
export const tieOf = (whole: Balance, parts: Balance, digits: number): { ok: boolean; offBy: string } =>
  shownProof(agreement(whole, parts), digits);

/** What prints the cells of a row under these columns, and no others; a column may have other decimals than the sheet. */
export const printerOf =
  (columns: readonly { key: string; digits?: number | undefined }[], digits: number) =>
  (cells: Cells): Record<string, string | null> =>
    Object.fromEntries(
      columns.map(({ key, digits: own = digits }) => {
        const value = cells[key];
        return [key, value ? valueText(value, own) : null];
      }),
    );

/** The heads of columns as they are answered: their decimals are only for printing. */
export const shownColumns = <Column extends { digits?: number | undefined }>(
  columns: readonly Column[],
): Omit<Column, 'digits'>[] => columns.map(({ digits: _own, ...head }) => head);
