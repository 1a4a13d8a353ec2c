import { readRegister } from '@/cases/documents/documentRegister';
import { serveSheet } from '../../sheetRoute';

export const GET = serveSheet('GET /document-register', ({ ctx, viewer, query }) => readRegister(ctx, viewer, query));
