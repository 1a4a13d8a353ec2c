import type { z } from 'zod';
import type { entryOriginsSchema } from '@/contracts/bodies/all';
import { patternOf } from '@/core/pattern';
import { keepSetting, readSetting } from '@/store/settings';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { require, type Viewer } from '../asking/viewer';

const NAME = 'entry-origins';
type Origins = z.infer<typeof entryOriginsSchema>;
export type Origin = Origins['rows'][number];

/** What the numbers of entries tell of where they come from; nothing where nobody has said. */
export const readEntryOrigins = async (ctx: Context): Promise<Origins> =>
  (await readSetting<Origins>(ctx.read, NAME)) ?? { rows: [] };

/** Says what numbers of entries tell, for everybody. */
export async function setEntryOrigins(ctx: Context, viewer: Viewer, origins: Origins): Promise<Origins> {
  require(viewer, 'owner', 'say what numbers of entries tell');
  await onRecord(ctx, viewer, async (trx, record) => {
    await keepSetting(trx, NAME, origins, viewer.name);
    await record('said what numbers of entries tell', 'entry-origins', {
      patterns: origins.rows.map((r) => r.pattern),
    });
  });
  return origins;
}

/** What tells the origin of an entry by its number: the first pattern that fits. */
export async function originsBy(ctx: Context): Promise<(number: string) => Origin | null> {
  const { rows } = await readEntryOrigins(ctx);
  const patterns = rows.map((row) => ({ row, pattern: patternOf(row.pattern) }));
  return (number) => patterns.find(({ pattern }) => pattern.test(number))?.row ?? null;
}
