import { dropOverview, overviewChanged, showOverview } from '@/cases/leaving/overviews';
import { idOf, serve } from '../../../answer';

export const GET = serve('GET /overviews/{id}', ({ ctx, viewer, path: { id } }) =>
  showOverview(ctx, viewer, idOf('Overview', id)),
);
export const PUT = serve('PUT /overviews/{id}', ({ ctx, viewer, body, path: { id } }) =>
  overviewChanged(ctx, viewer, idOf('Overview', id), body),
);
export const DELETE = serve('DELETE /overviews/{id}', ({ ctx, viewer, path: { id } }) =>
  dropOverview(ctx, viewer, idOf('Overview', id)),
);
