import { tickedShare } from '@/cases/evidence/ticks';
import { serve } from '../../../answer';

export const GET = serve('GET /ticks/share', ({ ctx, viewer, query }) => tickedShare(ctx, viewer, query));
