import { changeThread, removeThread } from '@/cases/evidence/threads/keep';
import { showThread } from '@/cases/evidence/threads/shown';
import { idOf, serve } from '../../../answer';

export const GET = serve('GET /threads/{id}', ({ ctx, viewer, path: { id } }) =>
  showThread(ctx, viewer, idOf('Thread', id)),
);
export const PUT = serve('PUT /threads/{id}', ({ ctx, viewer, body, path: { id } }) =>
  changeThread(ctx, viewer, idOf('Thread', id), body),
);
export const DELETE = serve('DELETE /threads/{id}', ({ ctx, viewer, path: { id } }) =>
  removeThread(ctx, viewer, idOf('Thread', id)),
);
