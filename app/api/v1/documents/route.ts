import { openDocuments } from '@/cases/documents/openDocuments';
import { serve } from '../../answer';

export const GET = serve('GET /documents', ({ ctx, viewer, query }) => openDocuments(ctx, viewer, query));
