import { listFindings, writeFinding } from '@/cases/evidence/findings';
import { serve } from '../../answer';

export const GET = serve('GET /findings', ({ ctx, viewer, query }) => listFindings(ctx, viewer, query));
export const POST = serve('POST /findings', ({ ctx, viewer, body }) => writeFinding(ctx, viewer, body));
