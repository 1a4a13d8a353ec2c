import { refinement } from '@/contracts/scope';
import { columnHint, derived, isPercent } from '@/core/columns';
import { add } from '@/core/money';
import type { Cells, SheetColumn, Value } from '@/core/sheet';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { columnBalances, columnsAsked } from './comparedColumns';

/** Columns beside the accounts of a trial balance. */
export interface ComparedAccounts {
  columns: (SheetColumn & { unit: 'percent' | 'amount' })[];
  /** The values of these accounts together, by column key; null where there is nothing to say. */
  of(codes: readonly string[]): Cells;
  /** Whether any of these accounts has an amount in any column. */
  some(codes: readonly string[]): boolean;
}

/** The same accounts over other windows, and the changes (method.md §2): one measure of the balance in every column. */
export async function comparedAccounts(
  ctx: Context,
  asked: ResolvedFigure,
  texts: readonly string[],
  measure: 'closing' | 'movement',
): Promise<ComparedAccounts> {
  const wanted = columnsAsked(texts);
  const all = await columnBalances(ctx, asked, wanted, measure);
  const columnOf = new Map(all.map((one) => [one.column.key, one]));
  const amountOf = (key: string, codes: readonly string[]): Value | undefined => {
    const { balances, knows } = columnOf.get(key) ?? {};
    if (!balances || !knows?.(codes)) return undefined;
    return { is: 'amount', amount: codes.reduce((sum, code) => add(sum, balances.get(code)?.[measure] ?? 0), 0) };
  };
  const shown = all.filter(({ column }) => column.is === 'window' || wanted.some((c) => c.key === column.key));
  return {
    columns: shown.map(({ column, label, title, figure, digits }) => ({
      key: column.key,
      label,
      title,
      hint: columnHint(column, null),
      unit: isPercent(column) ? 'percent' : 'amount',
      scope: figure ? refinement(asked.figure, figure, asked.digits) : {},
      digits,
    })),
    some: (codes) =>
      all.some(({ column }) => {
        const value = amountOf(column.key, codes);
        return value?.is === 'amount' && value.amount !== 0;
      }),
    of: (codes) => {
      const amount = (key: string) => amountOf(key, codes);
      return Object.fromEntries(
        shown.map(({ column }) => [column.key, amount(column.key) ?? derived(column, amount, () => undefined) ?? null]),
      );
    },
  };
}
