import { addToThread } from '@/cases/evidence/threads/keep';
import { idOf, serve } from '../../../../answer';

export const POST = serve('POST /threads/{id}/steps', ({ ctx, viewer, body, path: { id } }) =>
  addToThread(ctx, viewer, idOf('Thread', id), body.steps),
);
