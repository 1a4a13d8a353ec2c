import { changeProposed, showProposed } from '@/cases/proposals/propose';
import { idOf, serve } from '../../../answer';

export const GET = serve('GET /proposed-entries/{id}', ({ ctx, viewer, path: { id } }) =>
  showProposed(ctx, viewer, idOf('Proposed entry', id)),
);
export const PUT = serve('PUT /proposed-entries/{id}', ({ ctx, viewer, path: { id }, body }) =>
  changeProposed(ctx, viewer, idOf('Proposed entry', id), body),
);
