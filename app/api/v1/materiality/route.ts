import { materialityOf, sayMaterial } from '@/cases/proposals/materiality';
import { serve } from '../../answer';

export const GET = serve('GET /materiality', ({ ctx, viewer, query }) => materialityOf(ctx, viewer, query));
export const PUT = serve('PUT /materiality', ({ ctx, viewer, body }) => sayMaterial(ctx, viewer, body));
