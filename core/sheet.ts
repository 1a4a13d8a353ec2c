import type { Balance } from './balances';
import { furthestOff, type Minor } from './money';

/**
 * A value of a sheet, exact: an amount in minor units, a share in millionths (null where it is over nothing), a number
 * of things, or a quantity in millionths of its unit.
 */
export type Value =
  | { is: 'amount'; amount: Minor }
  | { is: 'share'; millionths: number | null }
  | { is: 'count'; count: number }
  | { is: 'quantity'; millionths: bigint };

/** Values of a row by the key of their column; null where there is nothing to say. */
export type Cells = Readonly<Record<string, Value | null>>;

/** A column as it is beside others: what it is called, what it says, and over which scope. */
export interface ColumnHead {
  key: string;
  label: string;
  /** Its window, or why it has no values. */
  title: string;
  hint: string;
  unit: 'amount' | 'percent' | 'number';
  /** Scope parameters that make the window of the sheet that of the column; none where it is calculated from others. */
  scope: Record<string, string | string[]>;
}

export interface SheetColumn extends ColumnHead {
  /** Of a variance, what is good for the result: more income, or in figures that are signed as booked, more credit. */
  favourable?: 'income' | 'credit' | null;
  /** Decimals, where they are not those of the sheet's currency. */
  digits?: number | undefined;
}

export interface SheetRow {
  /** Told apart by it from every other row of the sheet. */
  key: string;
  label: string;
  depth: number;
  cells: Cells;
  /** Scope parameters that ask for this row alone; null where it has no lines of its own. */
  refine: Readonly<Record<string, string | string[]>> | null;
}

/** Whether what should agree does, and by how much it does not. */
export interface Proof {
  ok: boolean;
  off: Minor;
}

/**
 * A sheet before it is printed: the one form of trial balances, splits, statements and budgets. What is shown, printed,
 * exported or held against something else is made of it.
 */
export interface Sheet<Row extends SheetRow = SheetRow, Proved extends Proof = Proof> {
  /** What stands beside the rows, but for what a balance is made of. */
  columns: readonly SheetColumn[];
  rows: readonly Row[];
  /** The whole that the rows are parts of; null where they are not parts of one. */
  whole: Cells | null;
  /** What was held against an answer to another question; empty where nothing was. */
  proofs: readonly Proved[];
}

export const amountOf = (amount: Minor): Value => ({ is: 'amount', amount });

/** The amount in a cell; 0 where there is none. */
export const amountIn = (cells: Cells, key: string): Minor => {
  const value = cells[key];
  return value?.is === 'amount' ? value.amount : 0;
};

export const isNothing = (value: Value | null): boolean => {
  switch (value?.is) {
    case 'amount':
      return value.amount === 0;
    case 'share':
      return (value.millionths ?? 0) === 0;
    case 'count':
      return value.count === 0;
    case 'quantity':
      return value.millionths === 0n;
    default:
      return true;
  }
};

/** What a balance is made of, each in a cell of its name. */
const MEASURES = ['opening', 'debit', 'credit', 'movement', 'roll', 'closing'] as const;

export const cellsOf = (balance: Balance): Cells => ({
  ...Object.fromEntries(MEASURES.map((m) => [m, amountOf(balance[m])])),
  count: { is: 'count', count: balance.count },
});

/** How many lines are behind the cells of a row. */
export const countIn = (cells: Cells): number => (cells.count?.is === 'count' ? cells.count.count : 0);

/** The balance in the cells of a row. */
export function balanceIn(cells: Cells): Balance {
  const count = countIn(cells);
  const [opening, debit, credit, movement, roll, closing] = MEASURES.map((m) => amountIn(cells, m)) as [
    Minor,
    Minor,
    Minor,
    Minor,
    Minor,
    Minor,
  ];
  return { opening, debit, credit, movement, roll, closing, count };
}

/** Whether parts equal the whole in every measure and in their count; off by the worst difference. */
export function agreement(whole: Balance, parts: Balance): Proof {
  const off = furthestOff(MEASURES.map((m) => whole[m] - parts[m]));
  return { ok: off === 0 && whole.count === parts.count, off };
}

/** All proofs of a sheet in one: the first that is off by something, else the first that does not hold. */
export const asOne = (proofs: readonly Proof[]): Proof =>
  proofs.find((p) => p.off !== 0) ?? proofs.find((p) => !p.ok) ?? { ok: true, off: 0 };
