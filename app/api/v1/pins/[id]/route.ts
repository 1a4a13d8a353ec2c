import { removePin, showPin } from '@/cases/evidence/pins';
import { idOf, serve } from '../../../answer';

export const GET = serve('GET /pins/{id}', ({ ctx, viewer, path: { id } }) => showPin(ctx, viewer, idOf('Pin', id)));
export const DELETE = serve('DELETE /pins/{id}', ({ ctx, viewer, path: { id } }) =>
  removePin(ctx, viewer, idOf('Pin', id)),
);
