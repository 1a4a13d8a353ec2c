import { askPull, runConnections, showConnections } from '@/cases/connections';
import { runLoads } from '@/cases/loads';
import { answer, idOf } from '../../../../answer';

/** Asks the source for what is new; the answer comes at once, the lines in the background. */
export const POST = answer(async ({ ctx, viewer }, { id }) => {
  await askPull(ctx, viewer, idOf('Connection', id));
  void runConnections(ctx)
    .then(() => runLoads(ctx))
    .catch((error: unknown) => console.error(error));
  return showConnections(ctx, viewer);
}, 202);
