import { removeTick } from '@/cases/evidence/ticks';
import { idOf, serve } from '../../../answer';

export const DELETE = serve('DELETE /ticks/{id}', ({ ctx, viewer, path: { id } }) =>
  removeTick(ctx, viewer, idOf('Tick', id)),
);
