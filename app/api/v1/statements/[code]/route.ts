import { readStatement } from '@/cases/statements/readStatement';
import { serve } from '../../../answer';

export const GET = serve('GET /statements/{code}', ({ ctx, viewer, query, path: { code } }) =>
  readStatement(ctx, viewer, code, query),
);
