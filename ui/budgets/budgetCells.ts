'use client';

import type { BudgetRow } from '@/contracts/answers/budgets';
import { type CellAt, totalOf } from '@/core/budgetSheet';
import { dateText } from '@/core/sentence';
import { otherSign } from '@/core/writtenAmounts';
import { amountText, scaledText } from '../amounts';

export type Account = BudgetRow & { account: string };

export const clamp = (at: number, size: number): number => Math.max(0, Math.min(size - 1, at));

export const range = (from: number, to: number): number[] =>
  Array.from({ length: Math.max(0, to - from + 1) }, (_, i) => from + i);

export const cellsOf = ({ from, to }: { from: CellAt; to: CellAt }): CellAt[] =>
  range(from.row, to.row).flatMap((row) => range(from.column, to.column).map((column) => ({ row, column })));

export const blank = (amount: string): string => (/[1-9]/.test(amount) ? amount : '');

/** Whole units, so that a year fits on the screen; the line below has the exact amount. */
export const shortText = (amount: string): string => scaledText(amount, 'whole');

/** What an account adds to the result. */
export const signed = (account: BudgetRow, amount: string): string =>
  account.sign === 'credit' ? amount : otherSign(amount);

/** "Apr" of a year of twelve months; else the last day. */
export const monthOf = (to: string, periods: number): string =>
  periods === 12 ? dateText(to).split(' ').slice(1).join(' ') : dateText(to);

export function statusOf(cells: string[], digits: number): string {
  if (cells.length < 2)
    return `${cells[0] ? `${amountText(cells[0])}. ` : ''}Enter writes, Delete clears, Shift with arrows chooses several, Ctrl Z undoes.`;
  return `${cells.length} cells, ${amountText(totalOf(cells, digits))} together.`;
}
