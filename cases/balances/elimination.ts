import { wrong } from '@/contracts/problem';
import { addBalance, type Balance, emptyBalance } from '@/core/balances';
import { isTemporary } from '@/core/ledger';
import { add } from '@/core/money';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { UNCANCELLED } from './addedAccounts';

/** The dimension whose members are the companies of the group: it names the partner of a line. */
export function partnerDimension({ known, entities }: Pick<ResolvedFigure, 'known' | 'entities'>): string {
  const found = [...known.catalogue.dimensions.values()].find((d) => entities.every((e) => d.members.has(e.code)));
  if (!found)
    throw wrong(
      'eliminated',
      'no dimension has the companies as its members, so that lines do not say with which of them they were',
    );
  return found.code;
}

/**
 * Balances of a group without the lines whose partner is in the group (method.md §7). What does not cancel is in
 * two rows of its own, so that the whole still balances and the pair can be traced.
 * @param read balances of a question without elimination
 */
export async function eliminatedBalances(
  asked: ResolvedFigure,
  read: (asked: ResolvedFigure) => Promise<Map<string, Balance>>,
): Promise<Map<string, Balance>> {
  if (asked.figure.accounts !== null)
    throw wrong(
      'eliminated',
      'dealings within the group are taken out of the whole ledger; remove the account selection',
    );
  if (asked.figure.where.length > 0)
    throw wrong('eliminated', 'dealings within the group are taken out of the whole ledger; remove the other clauses');
  return takenOut(asked, await read(asked.eliminating(false)), asked.entities, read);
}

/** One company's part of them, so that the companies side by side add up to the group. @param entity its code */
export async function eliminatedOfCompany(
  asked: ResolvedFigure,
  entity: string,
  read: (asked: ResolvedFigure) => Promise<Map<string, Balance>>,
): Promise<Map<string, Balance>> {
  const own = asked.eliminating(false).narrowed({ entities: [entity] });
  return takenOut(asked, await read(own), own.entities, read);
}

/** Balances without what the books of some of the companies say of dealings with others of the group. */
async function takenOut(
  asked: ResolvedFigure,
  whole: Map<string, Balance>,
  companies: ResolvedFigure['entities'],
  read: (asked: ResolvedFigure) => Promise<Map<string, Balance>>,
): Promise<Map<string, Balance>> {
  const dim = partnerDimension(asked);
  const booked = asked.eliminating(false);
  const typeOf = new Map(asked.entities.flatMap((e) => e.chart.map((a) => [a.code, a.type] as const)));
  const rest = { result: emptyBalance(), balance: emptyBalance() };
  for (const { code: company } of companies) {
    const others = asked.entities.flatMap(({ code }) => (code === company ? [] : [{ is: 'tree' as const, code }]));
    if (others.length === 0) continue;
    const within = await read(
      booked.narrowed({ entities: [company], where: [{ on: 'dim' as const, dim, any: others }] }),
    );
    for (const [code, balance] of within) {
      const type = typeOf.get(code);
      // Differences of translation are not between companies.
      if (type === undefined) continue;
      addBalance(isTemporary(type) ? rest.result : rest.balance, balance);
      const held = whole.get(code) ?? emptyBalance();
      whole.set(code, without(held, balance));
    }
  }
  whole.set(UNCANCELLED.result, netted(rest.result));
  whole.set(UNCANCELLED.balance, netted(rest.balance));
  return whole;
}

/** The lines that stay where dealings within the group are taken out: those with no partner in it. */
export const withOutsiders = (asked: ResolvedFigure): Record<string, string[]> => ({
  [`dim.${partnerDimension(asked)}`]: asked.entities.map((e) => `~not:${e.code}`),
});

function without(from: Balance, taken: Balance): Balance {
  const left = emptyBalance();
  for (const measure of ['opening', 'debit', 'credit', 'movement', 'roll', 'closing'] as const)
    left[measure] = add(from[measure], 0 - taken[measure]);
  left.count = from.count - taken.count;
  return left;
}

/** What is left over of two sides is shown on the side where it is. */
const netted = (b: Balance): Balance => ({
  ...b,
  debit: b.movement > 0 ? b.movement : 0,
  credit: b.movement < 0 ? 0 - b.movement : 0,
});
