import { keepOutline, readOutline, removeOutline } from '@/cases/statements/outlines';
import { serve } from '../../../../answer';

export const GET = serve('GET /statements/{code}/outline', ({ ctx, viewer, query, path: { code } }) =>
  readOutline(ctx, viewer, code, query),
);
export const PUT = serve('PUT /statements/{code}/outline', ({ ctx, viewer, body, path: { code } }) =>
  keepOutline(ctx, viewer, code, body),
);
export const DELETE = serve('DELETE /statements/{code}/outline', ({ ctx, viewer, query, path: { code } }) =>
  removeOutline(ctx, viewer, code, query),
);
