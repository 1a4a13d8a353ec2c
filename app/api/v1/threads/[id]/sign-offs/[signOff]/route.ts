import { showSigned } from '@/cases/evidence/threads/signOffs';
import { idOf, serve } from '../../../../../answer';

export const GET = serve('GET /threads/{id}/sign-offs/{signOff}', ({ ctx, viewer, path: { id, signOff } }) =>
  showSigned(ctx, viewer, idOf('Thread', id), idOf('Signature', signOff)),
);
