import { listExpectations, stateExpectation } from '@/cases/evidence/expectations';
import { serve } from '../../answer';

export const GET = serve('GET /expectations', ({ ctx, viewer, query }) => listExpectations(ctx, viewer, query));
export const POST = serve('POST /expectations', ({ ctx, viewer, body }) => stateExpectation(ctx, viewer, body));
