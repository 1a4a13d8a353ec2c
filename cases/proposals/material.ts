import { yearOf } from '@/core/calendar';
import type { Material } from '@/core/materiality';
import { readMateriality } from '@/store/materiality';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';

/** What counts now of a company in a year; of the group where nothing is said of the company, or no company is named. */
export async function materialFor(
  ctx: Context,
  entity: string | null,
  year: number,
  currency: string,
): Promise<(Material & { id: number }) | null> {
  const rows = (await readMateriality(ctx.write)).filter((m) => m.year === year && m.currency === currency);
  return rows.find((m) => m.entity === entity) ?? rows.find((m) => m.entity === null) ?? null;
}

/** What is material of what is asked: of its company, or the group's, in the fiscal year in which its window ends. */
export function materialAsked(ctx: Context, asked: ResolvedFigure): Promise<(Material & { id: number }) | null> {
  const { to } = asked.figure.window;
  const year = typeof to === 'number' ? yearOf(to) : asked.calendar.periodAt(to).year;
  const [entity = null, another] = asked.figure.entities;
  return materialFor(ctx, another === undefined ? entity : null, year, asked.currency);
}
