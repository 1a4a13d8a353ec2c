import { readDocument } from '@/cases/documents/readDocument';
import { serve } from '../../../answer';

export const GET = serve('GET /documents/{id}', ({ ctx, viewer, query, path: { id } }) =>
  readDocument(ctx, viewer, id, query),
);
