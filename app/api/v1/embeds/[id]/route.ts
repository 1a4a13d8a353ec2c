import { endEmbedded } from '@/cases/leaving/embeds';
import { idOf, serve } from '../../../answer';

export const DELETE = serve('DELETE /embeds/{id}', ({ ctx, viewer, path: { id } }) =>
  endEmbedded(ctx, viewer, idOf('Embedded panel', id)),
);
