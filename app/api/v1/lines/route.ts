import { readLines } from '@/cases/sheets/readLines';
import { serveSheet } from '../../sheetRoute';

export const GET = serveSheet('GET /lines', ({ ctx, viewer, query }) => readLines(ctx, viewer, query));
