import { replaceItem, testItem, testItems } from '@/cases/samples/samples';
import { idOf, serve } from '../../../../answer';

export const PUT = serve('PUT /samples/{id}/items', ({ ctx, viewer, path: { id }, body }) =>
  Array.isArray(body)
    ? testItems(ctx, viewer, idOf('Sample', id), body)
    : testItem(ctx, viewer, idOf('Sample', id), body),
);
export const POST = serve('POST /samples/{id}/items', ({ ctx, viewer, path: { id }, body }) =>
  replaceItem(ctx, viewer, idOf('Sample', id), body),
);
