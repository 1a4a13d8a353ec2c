import { keepOverview, showOverviews } from '@/cases/leaving/overviews';
import { serve } from '../../answer';

export const GET = serve('GET /overviews', ({ ctx, viewer }) => showOverviews(ctx, viewer));
export const POST = serve('POST /overviews', ({ ctx, viewer, body }) => keepOverview(ctx, viewer, body));
