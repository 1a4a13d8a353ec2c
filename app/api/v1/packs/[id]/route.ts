import { dropPack, packChanged } from '@/cases/leaving/packs';
import { idOf, serve } from '../../../answer';

export const PUT = serve('PUT /packs/{id}', ({ ctx, viewer, body, path: { id } }) =>
  packChanged(ctx, viewer, idOf('Pack', id), body),
);
export const DELETE = serve('DELETE /packs/{id}', ({ ctx, viewer, path: { id } }) =>
  dropPack(ctx, viewer, idOf('Pack', id)),
);
