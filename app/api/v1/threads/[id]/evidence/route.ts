import { gather } from '@/cases/evidence/threads/keep';
import { idOf, serve } from '../../../../answer';

export const POST = serve('POST /threads/{id}/evidence', ({ ctx, viewer, path: { id }, body }) =>
  gather(ctx, viewer, idOf('Thread', id), body),
);
