import { freeze, showFrozenList } from '@/cases/leaving/frozen';
import { serve } from '../../answer';

export const GET = serve('GET /frozen', ({ ctx, viewer }) => showFrozenList(ctx, viewer));
export const POST = serve('POST /frozen', ({ ctx, viewer, body }) => freeze(ctx, viewer, body));
