import { cancelLoad, showLoad } from '@/cases/loads/loads';
import { idOf, serve } from '../../../answer';

export const GET = serve('GET /loads/{id}', ({ ctx, viewer, path: { id } }) => showLoad(ctx, viewer, idOf('Load', id)));

/** Asks a load that waits or runs to stop. */
export const DELETE = serve('DELETE /loads/{id}', async ({ ctx, viewer, path: { id } }) => {
  await cancelLoad(ctx, viewer, idOf('Load', id));
  return showLoad(ctx, viewer, idOf('Load', id));
});
