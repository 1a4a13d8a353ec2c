import { addBalance, addOwn, addRetained, type Balance, emptyBalance } from '@/core/balances';
import { splitSums, total } from '@/store/balances';
import type { CatalogueAccount } from '@/store/catalogue';
import type { Context } from '../asking/context';
import { everyAccount, type ResolvedFigure } from '../asking/resolvedFigure';
import { differenceAccount, uncancelledAccounts } from './addedAccounts';
import { eliminatedBalances } from './elimination';
import { hasDifference, translatedBalances } from './translation';

/** Balance by account code; of a group, accounts of the same code added up, in the currency of the question. */
export async function balancesByAccount(ctx: Context, asked: ResolvedFigure): Promise<Map<string, Balance>> {
  if (asked.eliminates) return eliminatedBalances(asked, (without) => balancesByAccount(ctx, without));
  if (asked.translates) return translatedBalances(ctx, asked);
  const { db, question } = await asked.ask(ctx, [{ by: 'account' }]);
  const found = new Map<string, Balance>();
  const of = (code: string): Balance => {
    const balance = found.get(code) ?? emptyBalance();
    found.set(code, balance);
    return balance;
  };
  const entityOf = new Map(question.entities.map((e) => [e.entity.code, e]));
  for (const sum of await splitSums(db, question, [{ by: 'account' }])) {
    if (sum.own) addOwn(of(sum.keys[0] as string), sum);
    const entity = entityOf.get(sum.entity);
    if (entity?.retained) addRetained(of(entity.entity.retainedEarnings), sum);
  }
  return found;
}

/** A figure's own balance, in the currency of the question. */
export async function figureBalance(ctx: Context, asked: ResolvedFigure): Promise<Balance> {
  if (!asked.translates) return figureTotal(ctx, asked);
  const whole = emptyBalance();
  for (const balance of (await translatedBalances(ctx, asked)).values()) addBalance(whole, balance);
  return whole;
}

/** The same of books that need no translation. */
export async function figureTotal(ctx: Context, asked: ResolvedFigure): Promise<Balance> {
  const { db, question } = await asked.ask(ctx, []);
  return (await total(db, question)).total;
}

/** The charts of all entities as one, with the rows that a translation and an elimination add, by code. */
export function mergedChart(asked: ResolvedFigure): CatalogueAccount[] {
  const added = [
    ...(hasDifference(asked) ? [differenceAccount] : []),
    ...(asked.eliminates ? uncancelledAccounts : []),
  ];
  return [...everyAccount(asked.entities), ...added].sort((a, b) => (a.code < b.code ? -1 : 1));
}

/** The balances of some accounts together. */
export function sumOf(balances: ReadonlyMap<string, Balance>, codes: Iterable<string>): Balance {
  const sum = emptyBalance();
  for (const code of codes) {
    const balance = balances.get(code);
    if (balance) addBalance(sum, balance);
  }
  return sum;
}
