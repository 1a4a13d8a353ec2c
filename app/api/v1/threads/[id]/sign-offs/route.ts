import { sign } from '@/cases/evidence/threads/signOffs';
import { idOf, serve } from '../../../../answer';

export const POST = serve('POST /threads/{id}/sign-offs', ({ ctx, viewer, path: { id }, body }) =>
  sign(ctx, viewer, idOf('Thread', id), body.as),
);
