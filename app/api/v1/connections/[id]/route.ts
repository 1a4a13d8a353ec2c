import { allowPrivate, removeConnection } from '@/cases/loads/connections';
import { idOf, serve } from '../../../answer';

/** Whether the source may lie inside a private network. */
export const PUT = serve('PUT /connections/{id}', ({ ctx, viewer, body, path: { id } }) =>
  allowPrivate(ctx, viewer, idOf('Connection', id), body.privateAllowed),
);
export const DELETE = serve('DELETE /connections/{id}', ({ ctx, viewer, path: { id } }) =>
  removeConnection(ctx, viewer, idOf('Connection', id)),
);
