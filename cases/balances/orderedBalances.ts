import type { Due } from '@/core/columns';
import type { Figure } from '@/core/figure';
import { add } from '@/core/money';
import { isOfAccount } from '@/core/plans';
import type { Leaf, SplitQuestion } from '@/core/split';
import type { PlannedColumn } from '@/store/budgets';
import { commitmentSums } from '@/store/commitments';
import type { Db } from '@/store/db';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { columnOf, narrowedTo, type Plan, plannedBalance, unknown } from './plannedBalances';

/** Open orders of a figure, by when they fall due. */
interface OrdersAsked {
  figure: Figure;
  due: Due;
}

/**
 * What is ordered and not yet delivered, by all that orders are coded with: companies, accounts and dimensions
 * (method.md §9). Orders are in the currency of their books; a clause that no order knows leaves nothing known.
 */
export async function ordersOf(
  db: Db,
  asked: ResolvedFigure,
  { figure, due }: OrdersAsked,
  { splits }: Pick<SplitQuestion, 'splits' | 'trees'>,
): Promise<Plan> {
  if (asked.translates) return unknown('orders are in the currency of their books');
  const members = narrowedTo(figure, asked);
  const columns = splits.flatMap((split) => (isOfAccount(split) ? [] : [columnOf(split, asked)]));
  if (members === null || !columns.every((column) => column !== null && column !== 'period'))
    return unknown('orders are of companies, accounts and dimensions');
  const { catalogue } = asked.known;
  const found = new Map<string, Leaf>();
  for (const e of asked.books) {
    const rows = await commitmentSums(db, {
      entity: e.entity.id,
      asOf: asked.asOf,
      members,
      accounts: e.own,
      due: { is: due, day: lastDayOf(asked, e.entity.code) },
      columns: [...new Set<PlannedColumn>(['account', ...(columns as PlannedColumn[])])],
    });
    for (const row of rows) {
      const account = e.entity.accountOf.get(row.account as number);
      if (!account) continue;
      const keys = splits.map((split): string | null => {
        if (split.by === 'type') return account.type;
        if (split.by === 'entity') return e.entity.code;
        if (split.by !== 'dim') return account.code;
        const dimension = catalogue.dimensions.get(split.dim);
        return dimension?.codeOf.get(row[`d${dimension.slot}`] as number) ?? null;
      });
      const key = keys.join('\n');
      const sum = add(found.get(key)?.balance.movement ?? 0, row.amount as number);
      found.set(key, { keys, balance: plannedBalance(sum) });
    }
  }
  const leaves = [...found.values()];
  return {
    leaves,
    whole: leaves.reduce((sum, leaf) => add(sum, leaf.balance.movement), 0),
    knows: () => true,
    knowsAccounts: () => true,
    lacks: null,
  };
}

/** The last day of a figure's window in the books of a company. */
export function lastDayOf({ figure, books }: ResolvedFigure, entity: string): string {
  const { window } = figure;
  if (window.by === 'date') return window.to;
  const own = books.find((e) => e.entity.code === entity)?.calendar ?? books[0]?.calendar;
  return own?.period(window.to).to ?? '';
}
