import { listSets, makeSet } from '@/cases/proposals/sets';
import { serve } from '../../answer';

export const GET = serve('GET /proposed-sets', ({ ctx, viewer }) => listSets(ctx, viewer));
export const POST = serve('POST /proposed-sets', ({ ctx, viewer, body }) => makeSet(ctx, viewer, body));
