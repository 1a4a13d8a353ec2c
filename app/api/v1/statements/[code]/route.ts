import { readStatement } from '@/cases/statements/readStatement';
import { serveSheet } from '../../../sheetRoute';

export const GET = serveSheet('GET /statements/{code}', ({ ctx, viewer, query, path: { code } }) =>
  readStatement(ctx, viewer, code, query),
);
