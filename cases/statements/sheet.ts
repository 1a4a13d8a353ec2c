import type { Minor } from '@/core/money';
import { formatAmount } from '@/core/money';
import type { StatementKind, Value } from '@/core/statement';
import type { Emptiness } from '../asking/explainEmpty';
import { headOf, printerOf } from '../asking/present';
import type { ResolvedFigure } from '../asking/resolvedFigure';

/** A statement before it is printed: an outline, a cash flow, a position and a tax return are all of this shape. */
export interface StatementSheet {
  code: string;
  name: string;
  kind: StatementKind | 'tax';
  /** Key of the row that shares are of; null where there are none. */
  shareOf: string | null;
  /** What a position is of. */
  by?: string;
  languages?: string[];
  columns: StatementColumn[];
  rows: StatementRow[];
  guards: { guard: string; ok: boolean; amount: Minor; accounts: string[]; says: string }[];
  empty: Emptiness | null;
}

export interface StatementColumn {
  key: string;
  label: string;
  title: string;
  hint: string;
  unit: 'amount' | 'percent';
  /** Scope parameters that make the window of the sheet that of the column. */
  scope: Record<string, string | string[]>;
  /** Of a variance: that more income, or less expense, is favourable. */
  favourable: 'income' | null;
  /** Decimals, where they are not those of the sheet's currency. */
  digits?: number | undefined;
}

/** A row of a statement with its values. */
export interface StatementRow {
  key: string;
  label: string;
  kind: string;
  depth: number;
  emphasis: 'subtotal' | 'total' | undefined;
  sign: 'debit' | 'credit';
  account: string | null;
  /** By column key, in natural sign; null where there is nothing to say. */
  values: Record<string, Value | null>;
  /** Scope parameters that ask for this row alone; null where it has no lines of its own. */
  refine: Record<string, string | string[]> | null;
  /** Whether it can be opened to its accounts. */
  opens: boolean;
}

export const amountOf = (amount: Minor): Value => ({ is: 'amount', amount });

export const isNothing = (value: Value | null): boolean =>
  value === null || (value.is === 'amount' ? value.amount === 0 : (value.millionths ?? 0) === 0);

/** A statement as it is answered. */
export function presentStatement(asked: ResolvedFigure, sheet: StatementSheet) {
  const texts = printerOf(sheet.columns, asked.digits);
  return {
    code: sheet.code,
    name: sheet.name,
    kind: sheet.kind,
    ...headOf(asked),
    shareOf: sheet.shareOf,
    ...(sheet.by === undefined ? {} : { by: sheet.by }),
    ...(sheet.languages ? { languages: sheet.languages } : {}),
    columns: sheet.columns.map(({ digits: _own, ...column }) => column),
    rows: sheet.rows.map((row) => ({
      ...row,
      values: texts(row.values),
    })),
    guards: sheet.guards.map((guard) => ({ ...guard, amount: formatAmount(guard.amount, asked.digits) })),
    ...(sheet.empty ? { empty: sheet.empty } : {}),
  };
}
