import { ProblemError } from '@/contracts/problem';
import type { Measure } from '@/contracts/traced';
import { add, formatAmount, type Minor } from '@/core/money';
import { amountIn } from '@/core/sheet';
import { type Context, known } from '../../asking/context';
import type { Viewer } from '../../asking/viewer';
import { brokenDown } from '../../sheets/readSheet';
import { seen } from './seenThreads';
import { amountOf, figureOf, paramsOf } from './stepFigure';

/** A thread's figures, once for every member of a dimension (or entity) in which anything was booked, new members included. */
export async function fanOut(ctx: Context, viewer: Viewer, id: number, by: string) {
  const { thread, steps } = await seen(ctx, viewer, id);
  const figures = steps.filter((k) => k.measure !== null);
  if (figures.length === 0) throw new ProblemError(422, 'This thread has no step with a figure yet; trace one first');
  const { catalogue } = await known(ctx.read);
  const parents = new Set<string>();
  if (by.startsWith('dim:'))
    for (const m of catalogue.trees.get(by.slice(4))?.values() ?? []) if (m.parent) parents.add(m.parent);
  const members = new Map<string, { member: string; name: string; cells: (string | null)[] }>();
  const columns = await Promise.all(
    figures.map(async (k, at) => {
      const params = paramsOf(k);
      const measure = k.measure as Exclude<Measure, 'roll'>;
      let sum: Minor = 0;
      let digits = 2;
      const walk = async (split: string): Promise<void> => {
        const sheet = await brokenDown(ctx, viewer, { ...params, by: [split] });
        digits = sheet.asked.digits;
        for (const row of sheet.rows) {
          if (parents.has(row.member) && !split.endsWith(`/${row.member}`)) {
            await walk(`${by}/${row.member}`);
            continue;
          }
          // What is directly on a parent, or under no member, has the same key under every one.
          const key = row.member.startsWith('~') ? `${split} ${row.member}` : row.member;
          const held = members.get(key) ?? { member: key, name: row.label, cells: figures.map(() => null) };
          members.set(key, held);
          const value = amountIn(row.cells, measure);
          held.cells[at] = formatAmount(value, digits);
          sum = add(sum, value);
        }
      };
      await walk(by);
      const { value, currency } = await figureOf(ctx, viewer, k, {});
      return {
        step: k.id,
        label: k.label,
        measure,
        currency,
        total: amountOf(value, currency),
        tie: { ok: sum === value, offBy: formatAmount(add(sum, -(value ?? 0)), digits) },
      };
    }),
  );
  return {
    id,
    name: thread.name,
    by,
    columns,
    rows: [...members.values()].sort((a, b) => (a.member < b.member ? -1 : 1)),
  };
}
