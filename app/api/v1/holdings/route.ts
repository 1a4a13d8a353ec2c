import { keepHolding, readHoldings } from '@/cases/charts/holdings';
import { serve } from '../../answer';

export const GET = serve('GET /holdings', ({ ctx, viewer, query }) => readHoldings(ctx, viewer, query));
export const PUT = serve('PUT /holdings', ({ ctx, viewer, body }) => keepHolding(ctx, viewer, body));
