import type { Balance } from '@/core/balances';
import { formatAmount } from '@/core/money';

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
  return { opening: text(opening), debit: text(debit), credit: text(credit), movement: text(movement), roll: text(roll), closing: text(closing), count };
}

/** Whether parts equal the whole, and by how much not: the worst difference among the measures given. */
export function tieOf(whole: Balance, parts: Balance, digits: number): { ok: boolean; offBy: string } {
  const measures = ['opening', 'debit', 'credit', 'movement', 'roll', 'closing'] as const;
  const differences = measures.map((m) => whole[m] - parts[m]);
  const worst = differences.reduce((a, d) => (Math.abs(d) > Math.abs(a) ? d : a), 0);
  return { ok: worst === 0 && whole.count === parts.count, offBy: formatAmount(worst, digits) };
}
