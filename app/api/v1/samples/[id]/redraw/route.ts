import { redraw } from '@/cases/samples/samples';
import { idOf, serve } from '../../../../answer';

export const GET = serve('GET /samples/{id}/redraw', ({ ctx, viewer, path: { id } }) =>
  redraw(ctx, viewer, idOf('Sample', id)),
);
