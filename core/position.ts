import type { Balance } from './balances';
import { add, type Minor } from './money';

/** Whether members of a dimension have a position: what they received, spent, and have left. */
export const hasPosition = (dimension: string): boolean => /fund|project/i.test(dimension);

/** The position of a fund or a project (method.md §9), all amounts as a budget holder reads them: what there is, positive. */
export interface Position {
  opening: Minor;
  /** Booked directly on equity in the year: adjustments of the opening. */
  adjustments: Minor;
  received: Minor;
  spent: Minor;
  /** Of the window alone, beside the year to date. */
  receivedNow: Minor;
  spentNow: Minor;
  /** opening + adjustments + received − spent */
  current: Minor;
  committed: Minor;
  committedLater: Minor;
  /** current − commitments, now and later */
  available: Minor;
}

export const emptyPosition = (): Position => ({
  opening: 0,
  adjustments: 0,
  received: 0,
  spent: 0,
  receivedNow: 0,
  spentNow: 0,
  current: 0,
  committed: 0,
  committedLater: 0,
  available: 0,
});

/** Where a sum is: before the fiscal year of the window's end, in it, or in the window. */
export type TimeOfSum = 'before' | 'year' | 'window';

/** Adds a signed sum, debit positive, of one type of account. */
export function addToPosition(
  p: Position,
  type: 'income' | 'expense' | 'equity',
  lies: TimeOfSum,
  amount: Minor,
): void {
  const there = 0 - amount;
  if (lies === 'before') p.opening = add(p.opening, there);
  else if (type === 'equity') p.adjustments = add(p.adjustments, there);
  else if (type === 'income') {
    p.received = add(p.received, there);
    if (lies === 'window') p.receivedNow = add(p.receivedNow, there);
  } else {
    p.spent = add(p.spent, amount);
    if (lies === 'window') p.spentNow = add(p.spentNow, amount);
  }
  refreshDerived(p);
}

/** What of the year's sums was in the window; they are in the year already. */
export function addToWindow(p: Position, type: 'income' | 'expense' | 'equity', amount: Minor): void {
  if (type === 'income') p.receivedNow = add(p.receivedNow, 0 - amount);
  else if (type === 'expense') p.spentNow = add(p.spentNow, amount);
}

/** The position of an account of cash: debits are what it received, credits what it paid. */
export function cashPosition(year: Balance, window: Balance, committed: Minor, later: Minor): Position {
  const p = {
    ...emptyPosition(),
    opening: year.opening,
    received: year.debit,
    spent: year.credit,
    receivedNow: window.debit,
    spentNow: window.credit,
  };
  addCommitment(p, committed, false);
  addCommitment(p, later, true);
  return p;
}

export function addCommitment(p: Position, amount: Minor, later: boolean): void {
  if (later) p.committedLater = add(p.committedLater, amount);
  else p.committed = add(p.committed, amount);
  refreshDerived(p);
}

export function addPosition(to: Position, from: Position): void {
  for (const key of Object.keys(to) as (keyof Position)[]) to[key] = add(to[key], from[key]);
}

function refreshDerived(p: Position): void {
  p.current = add(add(p.opening, p.adjustments), add(p.received, 0 - p.spent));
  p.available = add(p.current, 0 - add(p.committed, p.committedLater));
}
