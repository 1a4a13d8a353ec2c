import type { z } from 'zod';
import type { ageBandsSchema } from '@/contracts/bodies/all';
import { AGE_EDGES } from '@/core/openItems';
import { keepSetting, readSetting } from '@/store/settings';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { require, type Viewer } from '../asking/viewer';

const NAME = 'age-bands';
type Bands = z.infer<typeof ageBandsSchema>;

/** Up to how many days past each band of age goes, where nobody asks for others. */
export const readAgeBands = async (ctx: Context): Promise<Bands> =>
  (await readSetting<Bands>(ctx.read, NAME)) ?? { edges: [...AGE_EDGES] };

/** Says for everybody which bands documents are aged by. */
export async function setAgeBands(ctx: Context, viewer: Viewer, { edges }: Bands): Promise<Bands> {
  require(viewer, 'owner', 'say how documents are aged');
  const bands = { edges: [...new Set(edges)].sort((a, b) => a - b) };
  await onRecord(ctx, viewer, async (trx, record) => {
    await keepSetting(trx, NAME, bands, viewer.name);
    await record('said how documents are aged', NAME, bands);
  });
  return bands;
}
