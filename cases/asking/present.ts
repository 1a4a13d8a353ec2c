import type { Balance } from '@/core/balances';
import { formatAmount, furthestOff } from '@/core/money';
import type { Value } from '@/core/statement';
import type { ResolvedFigure } from './resolvedFigure';

/** What every answer about a figure begins with. */
export const headOf = (asked: ResolvedFigure) => ({
  sentence: asked.sentence,
  parts: asked.parts,
  address: asked.address,
  currency: asked.currency,
  translated: asked.translates,
  load: asked.question.asOf,
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

/** Whether parts equal the whole, and by how much not: the worst difference among the measures given. */
export function tieOf(whole: Balance, parts: Balance, digits: number): { ok: boolean; offBy: string } {
  const measures = ['opening', 'debit', 'credit', 'movement', 'roll', 'closing'] as const;
  const worst = furthestOff(measures.map((m) => whole[m] - parts[m]));
  return { ok: worst === 0 && whole.count === parts.count, offBy: formatAmount(worst, digits) };
}

const TENTH_OF_PERCENT = 1_000;

/** Amounts as decimal strings; shares as percent with one decimal, rounded half away from zero; null for nothing over nothing. */
export function valueText(value: Value, digits: number): string | null {
  if (value.is === 'amount') return formatAmount(value.amount, digits);
  if (value.millionths === null) return null;
  const tenths = Math.sign(value.millionths) * Math.round(Math.abs(value.millionths) / TENTH_OF_PERCENT);
  return formatAmount(tenths === 0 ? 0 : tenths, 1);
}

/** What prints the values of a row under these columns; a column may have other decimals than the sheet. */
export function printerOf(columns: readonly { key: string; digits?: number | undefined }[], digits: number) {
  const own = new Map(columns.map((c) => [c.key, c.digits ?? digits]));
  return (values: Record<string, Value | null>): Record<string, string | null> =>
    Object.fromEntries(
      Object.entries(values).map(([key, value]) => [key, value && valueText(value, own.get(key) ?? digits)]),
    );
}
