import { dropReport, reportChanged, showReport } from '@/cases/leaving/reports';
import { idOf, serve } from '../../../answer';

export const GET = serve('GET /reports/{id}', ({ ctx, viewer, path: { id } }) =>
  showReport(ctx, viewer, idOf('Report', id)),
);
export const PUT = serve('PUT /reports/{id}', ({ ctx, viewer, body, path: { id } }) =>
  reportChanged(ctx, viewer, idOf('Report', id), body),
);
export const DELETE = serve('DELETE /reports/{id}', ({ ctx, viewer, path: { id } }) =>
  dropReport(ctx, viewer, idOf('Report', id)),
);
