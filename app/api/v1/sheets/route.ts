import { readSheet } from '@/cases/sheets/readSheet';
import { serveSheet } from '../../sheetRoute';

export const GET = serveSheet('GET /sheets', ({ ctx, viewer, query }) => readSheet(ctx, viewer, query));
