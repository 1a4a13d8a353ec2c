import { readEntry } from '@/cases/sheets/readEntry';
import { serve } from '../../../answer';

export const GET = serve('GET /entries/{id}', ({ ctx, viewer, query, path: { id } }) =>
  readEntry(ctx, viewer, id, query),
);
