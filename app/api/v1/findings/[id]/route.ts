import { changeFinding, showFinding } from '@/cases/evidence/findings';
import { idOf, serve } from '../../../answer';

export const GET = serve('GET /findings/{id}', ({ ctx, viewer, path: { id } }) =>
  showFinding(ctx, viewer, idOf('Finding', id)),
);
export const PUT = serve('PUT /findings/{id}', ({ ctx, viewer, path: { id }, body }) =>
  changeFinding(ctx, viewer, idOf('Finding', id), body),
);
