import type { z } from 'zod';
import type { FigureOfSeveral } from '@/contracts/answers/sheets';
import type { figuresSchema } from '@/contracts/bodies/all';
import { ProblemError } from '@/contracts/problem';
import { readQuery, scopeShape } from '@/contracts/scope';
import type { Measure } from '@/contracts/traced';
import type { Context } from '../asking/context';
import { tookTooLong } from '../asking/tookTooLong';
import type { Viewer } from '../asking/viewer';
import { readTotals } from './readTotals';

/** So many are worked at together: each takes a connection, of which others want some too. */
const AT_ONCE = 4;

/** Many figures, each under the viewer's grant, in the order in which they are asked for; one that cannot be told says why. */
export async function readFigures(
  ctx: Context,
  viewer: Viewer,
  asked: z.infer<typeof figuresSchema>['figures'],
): Promise<{ figures: FigureOfSeveral[] }> {
  const figures: FigureOfSeveral[] = [];
  let next = 0;
  const work = async (): Promise<void> => {
    for (let at = next++; at < asked.length; at = next++) figures[at] = await figureOf(ctx, viewer, asked[at] as Asked);
  };
  await Promise.all(Array.from({ length: AT_ONCE }, work));
  return { figures };
}

type Asked = z.infer<typeof figuresSchema>['figures'][number];

async function figureOf(ctx: Context, viewer: Viewer, { scope, measure }: Asked): Promise<FigureOfSeveral> {
  try {
    const { total, currency, load, tie } = await readTotals(
      ctx,
      viewer,
      readQuery(scopeShape, new URLSearchParams(scope)),
    );
    return { value: total[measure as Measure], count: total.count, currency, load, tie };
  } catch (error) {
    if (error instanceof ProblemError)
      return { ...NOTHING, error: error.errors.map((e) => e.message).join('; ') || error.message };
    if (tookTooLong(error)) return { ...NOTHING, error: 'this figure takes too long to be answered at once' };
    throw error;
  }
}

const NOTHING = { value: null, count: null, currency: null, load: null, tie: null };
