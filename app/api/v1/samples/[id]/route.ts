import { changeSample, removeSample, showSample } from '@/cases/samples/samples';
import { idOf, serve } from '../../../answer';

export const GET = serve('GET /samples/{id}', ({ ctx, viewer, path: { id } }) =>
  showSample(ctx, viewer, idOf('Sample', id)),
);
export const PUT = serve('PUT /samples/{id}', ({ ctx, viewer, path: { id }, body }) =>
  changeSample(ctx, viewer, idOf('Sample', id), body),
);
export const DELETE = serve('DELETE /samples/{id}', ({ ctx, viewer, path: { id } }) =>
  removeSample(ctx, viewer, idOf('Sample', id)),
);
