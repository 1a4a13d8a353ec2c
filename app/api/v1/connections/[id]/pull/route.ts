import { askPull, showConnections } from '@/cases/loads/connections';
import { idOf, serve } from '../../../../answer';

/** Asks the source for what is new; the answer comes at once, the lines with a job. */
export const POST = serve('POST /connections/{id}/pull', async ({ ctx, viewer, path: { id } }) => {
  await askPull(ctx, viewer, idOf('Connection', id));
  return showConnections(ctx, viewer);
});
