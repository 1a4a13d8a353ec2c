import type { Context } from '@/cases/context';
import { runLoads } from '@/cases/loads';

/** Begins the loads that wait, and answers meanwhile. */
export function begun<Load extends { id: number }>(ctx: Context, load: Load): Load {
  void runLoads(ctx).catch((error: unknown) => console.error(error));
  return load;
}
