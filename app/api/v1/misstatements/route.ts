import { misstatements } from '@/cases/proposals/misstatements';
import { serveSheet } from '../../sheetRoute';

export const GET = serveSheet('GET /misstatements', ({ ctx, viewer, query }) => misstatements(ctx, viewer, query));
