import { listTicks, tick } from '@/cases/evidence/ticks';
import { serve } from '../../answer';

export const GET = serve('GET /ticks', ({ ctx, viewer, query }) => listTicks(ctx, viewer, query));
export const POST = serve('POST /ticks', ({ ctx, viewer, body }) => tick(ctx, viewer, body));
