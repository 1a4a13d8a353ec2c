import { openOrders } from '@/cases/documents/openOrders';
import { serve } from '../../answer';

export const GET = serve('GET /commitments', ({ ctx, viewer, query }) => openOrders(ctx, viewer, query));
