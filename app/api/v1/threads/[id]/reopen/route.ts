import { reopen } from '@/cases/evidence/threads/signOffs';
import { idOf, serve } from '../../../../answer';

export const POST = serve('POST /threads/{id}/reopen', ({ ctx, viewer, path: { id }, body }) =>
  reopen(ctx, viewer, idOf('Thread', id), body.reason),
);
