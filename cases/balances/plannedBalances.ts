import { emptyBalance } from '@/core/balances';
import type { Figure, Split } from '@/core/figure';
import { beneath } from '@/core/ledger';
import { add } from '@/core/money';
import type { Leaf } from '@/core/split';
import { type PlannedColumn, plannedSums } from '@/store/budgets';
import type { Db } from '@/store/db';
import type { ResolvedFigure } from '../asking/resolvedFigure';

/**
 * Budget of a version by account code over a figure's window, as far as it was set: the dimension members of the scope
 * with all beneath them. Null where the scope has a clause that no budget knows, since a smaller number would mislead.
 */
export async function budgetByAccount(
  db: Db,
  asked: ResolvedFigure,
  figure: Figure,
  version: string,
): Promise<Map<string, number> | null> {
  const leaves = await budgetLeaves(db, asked, figure, version, [{ by: 'account' }]);
  return leaves && new Map(leaves.map(({ keys, balance }) => [keys[0] as string, balance.movement]));
}

/**
 * The same by anything that a budget is set by: accounts, companies, dimensions, periods, and months where they are periods.
 * @returns null where the scope or a split is of something that no budget knows
 */
export async function budgetLeaves(
  db: Db,
  asked: ResolvedFigure,
  figure: Figure,
  version: string,
  splits: readonly Split[],
): Promise<Leaf[] | null> {
  const { catalogue } = asked.known;
  const members = new Map<number, number[]>();
  for (const clause of figure.where) {
    if (clause.on !== 'dim' || clause.not) return null;
    const dimension = catalogue.dimensions.get(clause.dim);
    if (!dimension) return null;
    const ids = clause.any.flatMap((pick) => {
      if (pick.is === 'none') return [0];
      const codes = pick.is === 'direct' ? [pick.code] : [...beneath(dimension.tree, pick.code)];
      return codes.map((code) => dimension.members.get(code) ?? -1);
    });
    const held = members.get(dimension.slot);
    members.set(dimension.slot, held ? held.filter((id) => ids.includes(id)) : ids);
  }
  const columns = new Set<PlannedColumn>(['account']);
  for (const split of splits) {
    const column = columnOf(split, asked);
    if (column === null) return null;
    if (column !== 'given by the account') columns.add(column);
  }
  const found = new Map<string, Leaf>();
  for (const e of asked.books) {
    const { window } = figure;
    const at = (end: number | string): number => (typeof end === 'number' ? end : e.calendar.periodAt(end).ordinal);
    const rows = await plannedSums(db, {
      entity: e.entity.id,
      version,
      asOf: asked.asOf,
      periods: { from: at(window.from), to: at(window.to) },
      members,
      columns: [...columns],
    });
    for (const row of rows) {
      const account = e.entity.accountOf.get(row.account as number);
      if (!account || (e.own !== null && !e.own.includes(row.account as number))) continue;
      const keys = splits.map((split): string | null => {
        switch (split.by) {
          case 'type':
            return account.type;
          case 'entity':
            return e.entity.code;
          case 'period':
            return String(row.period);
          case 'month':
            return e.calendar.period(row.period as number).from.slice(0, 7);
          case 'dim': {
            const dimension = catalogue.dimensions.get(split.dim);
            return dimension?.codeOf.get(row[`d${dimension.slot}`] as number) ?? null;
          }
          default:
            return account.code;
        }
      });
      const key = keys.join('\n');
      const leaf = found.get(key) ?? { keys, balance: emptyBalance() };
      const sum = add(leaf.balance.movement, row.amount as number);
      found.set(key, { keys, balance: { ...emptyBalance(), movement: sum, closing: sum } });
    }
  }
  return [...found.values()];
}

/** What a budget is grouped by for a split, or that the account or its company tells; null where no budget knows. */
function columnOf(split: Split, asked: ResolvedFigure): PlannedColumn | 'given by the account' | null {
  switch (split.by) {
    case 'account':
    case 'heading':
    case 'type':
    case 'entity':
      return 'given by the account';
    case 'period':
      return 'period';
    case 'month':
      // A period of weeks is in two months.
      return asked.entities.every((e) => e.calendar.kind === 'monthly') ? 'period' : null;
    case 'dim': {
      const slot = asked.known.catalogue.dimensions.get(split.dim)?.slot;
      return slot === undefined ? null : (`d${slot}` as PlannedColumn);
    }
    default:
      return null;
  }
}
