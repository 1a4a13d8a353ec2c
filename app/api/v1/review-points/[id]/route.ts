import { changePoint } from '@/cases/evidence/points';
import { idOf, serve } from '../../../answer';

export const PUT = serve('PUT /review-points/{id}', ({ ctx, viewer, path: { id }, body }) =>
  changePoint(ctx, viewer, idOf('Review point', id), body),
);
