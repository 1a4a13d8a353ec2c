import { wrong } from '@/contracts/problem';
import type { PartOfLines } from '@/contracts/traced';
import { add, type Minor } from '@/core/money';
import { taxOnLine } from '@/core/tax';
import { ONE_BY_ONE_MAX, otherSideSums } from '@/store/otherSide';
import { taxSums } from '@/store/taxes';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { figureTotal } from '../balances/accountBalances';

/**
 * What a figure's lines come to where a part of each is meant (method.md §8): what of them is allotted to the accounts on
 * the other side that the scope names, on the side of the line itself, or the tax on them. That is what a row of a cash flow
 * and a box of a tax return are made of.
 * @returns null where there are too many lines to add up
 * @throws ProblemError where the scope names no such accounts, or no tax code
 */
export async function partOfAllLines(ctx: Context, asked: ResolvedFigure, part: PartOfLines): Promise<Minor | null> {
  const accounts = accountsOpposite(asked, part);
  if (accounts === null) {
    const { db, question } = await asked.ask(ctx, [{ by: 'taxCode' }]);
    return (await taxSums(db, question, asked.digits)).reduce((sum, { tax }) => add(sum, tax), 0);
  }
  const { db, question } = await asked.ask(ctx, []);
  if (!question.columns && (await figureTotal(ctx, asked)).count > ONE_BY_ONE_MAX) return null;
  return (await otherSideSums(db, question)).reduce(
    (sum, { account, amount }) => (accounts.has(account) ? add(sum, -amount) : sum),
    0,
  );
}

/** A line, with what the part of it is worked out from. */
interface LineWithOthers {
  amount: Minor;
  extra: Record<string, string> | null;
  others: readonly { account: string; amount: Minor }[];
}

/** The part of each line. @returns null for a line of which it is not known */
export function partOfEach(asked: ResolvedFigure, part: PartOfLines): (line: LineWithOthers) => Minor | null {
  const accounts = accountsOpposite(asked, part);
  if (accounts !== null)
    return ({ others }) => others.reduce((sum, o) => (accounts.has(o.account) ? add(sum, -o.amount) : sum), 0);
  return ({ amount, extra }) => taxOnLine(extra?.tax_amount, amount, asked.digits);
}

/** The accounts on the other side that a scope names; null where the tax is meant. */
function accountsOpposite({ figure }: ResolvedFigure, part: PartOfLines): ReadonlySet<string> | null {
  if (part === 'tax') {
    if (figure.accounting)
      throw wrong('accounting', 'the tax on lines is of the books as booked; ask on the accrual basis');
    if (!figure.where.some((c) => c.on === 'taxCode'))
      throw wrong('part', 'the tax is of lines with a tax code; name one');
    return null;
  }
  const clause = figure.where.findLast((c) => c.on === 'opposite');
  if (!clause) throw wrong('part', 'lines are allotted to accounts on the other side; name some');
  return new Set(clause.any);
}
