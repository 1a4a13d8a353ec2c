import { openDocuments } from '@/cases/documents/openDocuments';
import { serveSheet } from '../../sheetRoute';

export const GET = serveSheet('GET /documents', ({ ctx, viewer, query }) => openDocuments(ctx, viewer, query));
