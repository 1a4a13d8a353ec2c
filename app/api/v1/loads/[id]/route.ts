import { cancelLoad, showLoad } from '@/cases/loads/loads';
import { answer, idOf } from '../../../answer';

export const GET = answer(({ ctx, viewer }, { id }) => showLoad(ctx, viewer, idOf('Load', id)));

/** Asks a load that waits or runs to stop. */
export const DELETE = answer(async ({ ctx, viewer }, { id }) => {
  await cancelLoad(ctx, viewer, idOf('Load', id));
  return showLoad(ctx, viewer, idOf('Load', id));
});
