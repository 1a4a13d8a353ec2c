'use client';

import type { SplitSheet } from '@/contracts/answers/sheets';
import { amountWidth, type Column } from '../sheet/gridModel';
import type { Shading } from './shading';

const AMOUNT = amountWidth(128);

const CELL = amountWidth(124);

/** With room for an arrow. */
const WIDE_CELL = 'minmax(124px, 136px)';

type Row = SplitSheet['rows'][number];

/** @param movement whether what moved was traced: then it comes first, and what it is made of beside it */
export const COLUMNS = (title: string, ofCurrency: boolean, movement: boolean): Column[] => [
  { key: 'member', label: title, width: 'minmax(200px, 1fr)' },
  ...(movement
    ? [
        {
          key: 'movement',
          label: 'Movement',
          width: AMOUNT,
          amount: true,
          hint: 'What was booked in the window: debits less credits.',
        },
      ]
    : []),
  { key: 'opening', label: 'Opening', width: AMOUNT, amount: true },
  { key: 'debit', label: 'Debit', width: AMOUNT, amount: true },
  { key: 'credit', label: 'Credit', width: AMOUNT, amount: true },
  { key: 'closing', label: 'Closing', width: AMOUNT, amount: true },
  ...(ofCurrency
    ? [
        {
          key: 'inCurrency',
          label: 'Movement in it',
          width: 'minmax(130px, 160px)',
          amount: true,
          hint: 'What moved in the window, in the currency of the transactions.',
        },
      ]
    : []),
];

export const TIME = ['period', 'month', 'week', 'day'];

/** Whether the parts of a column are before it. */
const isOpened = (data: SplitSheet | undefined, member: string): boolean =>
  data?.columns.some((c) => c.within === member) ?? false;

export const crossColumns = (title: string, data: SplitSheet | undefined, shading: Shading): Column[] => [
  { key: 'member', label: title, width: 'minmax(212px, 1fr)' },
  ...(data?.columns ?? []).map((c, i) => ({
    key: `x${i}`,
    label: isOpened(data, c.member) ? `${c.name}, all` : c.name,
    width: shading === 'change' ? WIDE_CELL : CELL,
    amount: true,
    hint: c.within === null ? c.name : `${c.name}, a part of the column to its right`,
  })),
  { key: 'whole', label: 'Together', width: AMOUNT, amount: true },
];

/** Rows that no folded one hides, each with a key of its own and whether there is anything beneath it. */
export function unfolded(
  rows: readonly Row[],
  folded: ReadonlySet<string>,
): { row: Row; key: string; opens: boolean }[] {
  const found: { row: Row; key: string; opens: boolean }[] = [];
  const path: string[] = [];
  let hiddenBelow: number | null = null;
  for (const [i, row] of rows.entries()) {
    path.length = row.depth;
    path.push(row.member);
    if (hiddenBelow !== null && row.depth > hiddenBelow) continue;
    const key = path.join('›');
    hiddenBelow = folded.has(key) ? row.depth : null;
    found.push({ row, key, opens: (rows[i + 1]?.depth ?? 0) > row.depth });
  }
  return found;
}
