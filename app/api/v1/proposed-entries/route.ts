import { listProposed, propose } from '@/cases/proposals/propose';
import { serve } from '../../answer';

export const GET = serve('GET /proposed-entries', ({ ctx, viewer, query }) => listProposed(ctx, viewer, query));
export const POST = serve('POST /proposed-entries', ({ ctx, viewer, body }) => propose(ctx, viewer, body));
