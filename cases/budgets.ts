import type { Figure } from '@/core/figure';
import { beneath } from '@/core/ledger';
import { type Db, rowsOf } from '@/store/db';
import type { Asked } from './resolveFigure';

/**
 * Budget of a version by account code over a figure's window, as far as it was set: the dimension members of the scope
 * with all beneath them. Null where the scope has a clause that no budget knows, since a smaller number would mislead.
 */
export async function budgetByAccount(db: Db, asked: Asked, figure: Figure, version: string): Promise<Map<string, number> | null> {
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
  const found = new Map<string, number>();
  for (const e of asked.question.entities) {
    const { window } = figure;
    const at = (end: number | string): number => (typeof end === 'number' ? end : e.calendar.periodAt(end).ordinal);
    const rows = await rowsOf<{ account: number; amount: number }>(
      db,
      `select b.account, sum(b.amount)::bigint as amount from budget b where ${where.join(' and ')} and b.entity = ? and b.period between ? and ? group by 1`,
      [...bindings, e.entity.id, at(window.from), at(window.to)],
    );
    for (const r of rows) {
      const code = e.entity.accountOf.get(r.account)?.code;
      if (code !== undefined && (e.own === null || e.own.includes(r.account))) found.set(code, (found.get(code) ?? 0) + r.amount);
    }
  }
  return found;
}
