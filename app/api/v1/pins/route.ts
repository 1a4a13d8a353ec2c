import { listPins, pin } from '@/cases/evidence/pins';
import { serve } from '../../answer';

export const GET = serve('GET /pins', ({ ctx, viewer, query }) => listPins(ctx, viewer, query));
export const POST = serve('POST /pins', ({ ctx, viewer, body }) => pin(ctx, viewer, body));
