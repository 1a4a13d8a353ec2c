import { askPull, showConnections } from '@/cases/loads/connections';
import { answer, idOf } from '../../../../answer';

/** Asks the source for what is new; the answer comes at once, the lines with a job. */
export const POST = answer(async ({ ctx, viewer }, { id }) => {
  await askPull(ctx, viewer, idOf('Connection', id));
  return showConnections(ctx, viewer);
}, 202);
