import { listPoints, raisePoint } from '@/cases/evidence/points';
import { serve } from '../../answer';

export const GET = serve('GET /review-points', ({ ctx, viewer, query }) => listPoints(ctx, viewer, query));
export const POST = serve('POST /review-points', ({ ctx, viewer, body }) => raisePoint(ctx, viewer, body));
