import type { ColumnLayout } from '@/contracts/bodies/all';
import { ProblemError } from '@/contracts/problem';
import { keepPreference, preferencesOf } from '@/store/preferences';
import type { Context } from '../asking/context';
import type { Viewer } from '../asking/viewer';

/** How the viewer has arranged the columns of each sheet: their own, and no matter for the record. */
export async function readColumnLayouts(
  ctx: Context,
  viewer: Viewer,
): Promise<{ sheets: Record<string, ColumnLayout> }> {
  const rows = await preferencesOf<ColumnLayout>(ctx.write, viewer.id);
  return {
    sheets: Object.fromEntries(
      rows.filter((r) => r.name.startsWith(PREFIX)).map((r) => [r.name.slice(PREFIX.length), r.value]),
    ),
  };
}

/** @param layout null: as the sheet comes */
export async function keepColumnLayout(
  ctx: Context,
  viewer: Viewer,
  sheet: string,
  layout: ColumnLayout | null,
): Promise<{ sheet: string }> {
  if (layout !== null) {
    const held = await preferencesOf(ctx.write, viewer.id);
    if (held.length >= LAYOUTS_MAX && !held.some((r) => r.name === PREFIX + sheet))
      throw new ProblemError(429, `You have arranged the columns of ${LAYOUTS_MAX} sheets; set one back first`);
  }
  await keepPreference(ctx.write, viewer.id, PREFIX + sheet, layout);
  return { sheet };
}

const PREFIX = 'columns:';
/** More sheets than this there are not. */
const LAYOUTS_MAX = 200;
