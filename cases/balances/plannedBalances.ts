import { emptyBalance } from '@/core/balances';
import type { Figure, Split } from '@/core/figure';
import { beneath } from '@/core/ledger';
import { add } from '@/core/money';
import type { Leaf } from '@/core/sheet';
import { type Db, rowsOf } from '@/store/db';
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
  const where = ['b.replaced_by > ?', 'b.load <= ?', 'b.version = ?'];
  const bindings: unknown[] = [asked.question.asOf, asked.question.asOf, version];
  for (const clause of figure.where) {
    if (clause.on !== 'dim' || clause.not) return null;
    const dimension = catalogue.dimensions.get(clause.dim);
    if (!dimension) return null;
    const ids = clause.any.flatMap((pick) => {
      if (pick.is === 'none') return [0];
      const codes = pick.is === 'direct' ? [pick.code] : [...beneath(dimension.tree, pick.code)];
      return codes.map((code) => dimension.members.get(code) ?? -1);
    });
    where.push(`b.d${Number(dimension.slot)} = any(?::integer[])`);
    bindings.push(ids);
  }
  const columns = new Set(['b.account']);
  for (const split of splits) {
    const column = columnOf(split, asked);
    if (column === null) return null;
    if (column !== '') columns.add(column);
  }
  const found = new Map<string, Leaf>();
  for (const e of asked.question.entities) {
    const { window } = figure;
    const at = (end: number | string): number => (typeof end === 'number' ? end : e.calendar.periodAt(end).ordinal);
    const list = [...columns].join(', ');
    const rows = await rowsOf<Record<string, number>>(
      db,
      `select ${list}, sum(b.amount)::bigint as amount from budget b where ${where.join(' and ')} and b.entity = ? and b.period between ? and ? group by ${list}`,
      [...bindings, e.entity.id, at(window.from), at(window.to)],
    );
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

/** What a budget is grouped by for a split; empty where the account or its company tells; null where no budget knows. */
function columnOf(split: Split, asked: ResolvedFigure): string | null {
  switch (split.by) {
    case 'account':
    case 'heading':
    case 'type':
    case 'entity':
      return '';
    case 'period':
      return 'b.period';
    case 'month':
      // A period of weeks is in two months.
      return asked.entities.every((e) => e.calendar.kind === 'monthly') ? 'b.period' : null;
    case 'dim': {
      const slot = asked.known.catalogue.dimensions.get(split.dim)?.slot;
      return slot === undefined ? null : `b.d${Number(slot)}`;
    }
    default:
      return null;
  }
}
