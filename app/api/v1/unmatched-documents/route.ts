import { unmatchedDocuments } from '@/cases/documents/unmatchedDocuments';
import { serve } from '../../answer';

export const GET = serve('GET /unmatched-documents', ({ ctx, viewer, query }) =>
  unmatchedDocuments(ctx, viewer, query),
);
