import { keepMoved } from '@/store/evidence';
import { listThreads, stepsOf } from '@/store/threads';
import type { Context } from '../../asking/context';
import { EVERYTHING } from '../everything';
import { figureOf, hasMoved, problemText } from './stepFigure';

/** Works out and keeps which steps of threads have other figures as of a load than when they were taken, for lists of threads. */
export async function keepMovedSteps(ctx: Context, load: number): Promise<void> {
  const threads = await listThreads(ctx.work);
  for (const thread of threads) {
    const steps = (await stepsOf(ctx.work, [thread.id])).filter((k) => k.measure !== null || k.view === 'entry');
    const found: { id: number; moved: boolean }[] = [];
    for (const step of steps) {
      const now = await figureOf(ctx, EVERYTHING, step, {}).catch(problemText);
      found.push({ id: step.id, moved: typeof now !== 'string' && hasMoved(step, now) });
    }
    await keepMoved(ctx.work, 'step', load, found);
  }
}
