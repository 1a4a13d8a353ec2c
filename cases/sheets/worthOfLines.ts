import type { Balance } from '@/core/balances';
import { isTemporary } from '@/core/ledger';
import { add, type Minor } from '@/core/money';
import { amountsByDay } from '@/store/lines';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { figureBalance } from '../balances/accountBalances';
import { ratesFor, translator, withoutRate } from '../balances/translation';

/** The worth of more lines than this is not added up one by one. */
const LINES_MAX = 200_000;

/** What of a line its worth in another currency depends on. */
interface Booked {
  entity: string;
  account: string;
  day: string;
  period: number;
  amount: Minor;
}

/**
 * What a line is worth in the currency of a figure: income and expense at the average of their period, all else at the rate
 * of its own day (IAS 21.21 and 21.22). @throws ProblemError where a rate is missing
 */
export async function worthOfEach(ctx: Context, shown: ResolvedFigure): Promise<(line: Booked) => Minor> {
  const rates = await ratesFor(ctx, shown);
  const books = new Map(shown.books.map((e) => [e.entity.code, { e, ...translator(rates, e, shown.currency) }]));
  const byPeriod = shown.figure.window.by === 'period';
  return ({ entity, account, day, period, amount }) => {
    const own = books.get(entity);
    if (!own) return 0;
    try {
      return isTemporary(own.e.entity.accounts.get(account)?.type ?? 'asset')
        ? own.averaged(amount, byPeriod ? period : own.e.calendar.periodAt(day).ordinal)
        : own.at(amount, day);
    } catch (error) {
      throw withoutRate(error);
    }
  };
}

/**
 * What all lines of a figure are worth together, and the figure itself translated as the statements show it: what lies
 * between the two is what rates did to balances since, and rounding.
 * @returns lines: null where there are too many to be added up one by one
 */
export async function worthOfAll(
  ctx: Context,
  shown: ResolvedFigure,
  count: number,
): Promise<{ whole: Balance; lines: Minor | null }> {
  const whole = await figureBalance(ctx, shown);
  if (count > LINES_MAX) return { whole, lines: null };
  const { db, question } = await shown.ask(ctx, [{ by: 'day' }]);
  const worth = await worthOfEach(ctx, shown);
  const lines = (await amountsByDay(db, question)).reduce((sum, { lines: n, ...line }) => add(sum, n * worth(line)), 0);
  return { whole, lines };
}
