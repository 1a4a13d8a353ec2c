import { listStatements } from '@/cases/statements/outlines';
import { serve } from '../../answer';

export const GET = serve('GET /statements', ({ ctx, viewer, query }) => listStatements(ctx, viewer, query));
