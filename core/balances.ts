import { add, type Minor } from './money';

/** What an account did in a window; opening + movement + roll = closing, always (method.md §4). */
export interface Balance {
  opening: Minor;
  debit: Minor;
  credit: Minor;
  movement: Minor;
  roll: Minor;
  closing: Minor;
  count: number;
}

export const emptyBalance = (): Balance => ({
  opening: 0,
  debit: 0,
  credit: 0,
  movement: 0,
  roll: 0,
  closing: 0,
  count: 0,
});

/**
 * Where lines lie against the window [F, T]; `year` is the fiscal year that F is in:
 * 0 before that year; 1 in that year before F (and loaded opening balances of that year);
 * 2 in the window, in a year that ends inside it; 3 in the window, in its last year.
 */
export type Part = 0 | 1 | 2 | 3;

/** Lines of one part, added up. */
export interface PartSum {
  part: Part;
  /** The account is one that the figure selects. */
  own: boolean;
  /** The account is an income or expense account. */
  temporary: boolean;
  /** A fiscal year ends inside the window. */
  rolls: boolean;
  debit: Minor;
  credit: Minor;
  count: number;
}

/** Adds what a part contributes to the balance of the accounts themselves. */
export function addOwn(balance: Balance, sum: PartSum): void {
  const amount = add(sum.debit, -sum.credit);
  if (sum.part >= 2) {
    balance.debit = add(balance.debit, sum.debit);
    balance.credit = add(balance.credit, sum.credit);
    balance.movement = add(balance.movement, amount);
    balance.count += sum.count;
  } else if (sum.part === 1 || !sum.temporary) {
    balance.opening = add(balance.opening, amount);
  }
  if (sum.temporary && sum.rolls && (sum.part === 1 || sum.part === 2)) balance.roll = add(balance.roll, -amount);
  withClosing(balance);
}

/**
 * Adds what income and expense of ended years contribute to retained earnings. Where the ledger books its
 * closing entries these cancel the year's lines, so that nothing but an unclosed rest is carried.
 */
export function addRetained(balance: Balance, sum: PartSum): void {
  if (!sum.temporary) return;
  const amount = add(sum.debit, -sum.credit);
  if (sum.part === 0) balance.opening = add(balance.opening, amount);
  else if (sum.rolls && sum.part !== 3) balance.roll = add(balance.roll, amount);
  withClosing(balance);
}

/** Adds a balance to another, measure by measure. */
export function addBalance(to: Balance, from: Balance): void {
  to.opening = add(to.opening, from.opening);
  to.debit = add(to.debit, from.debit);
  to.credit = add(to.credit, from.credit);
  to.movement = add(to.movement, from.movement);
  to.roll = add(to.roll, from.roll);
  to.count += from.count;
  withClosing(to);
}

/** True when every amount is nothing and no line was counted. */
export const isEmpty = (b: Balance): boolean =>
  b.opening === 0 && b.debit === 0 && b.credit === 0 && b.roll === 0 && b.closing === 0 && b.count === 0;

function withClosing(balance: Balance): void {
  balance.closing = add(add(balance.opening, balance.movement), balance.roll);
}
