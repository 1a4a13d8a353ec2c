import { listParties } from '@/cases/charts/parties';
import { serve } from '../../answer';

export const GET = serve('GET /parties', ({ ctx, viewer }) => listParties(ctx, viewer));
