import { compareLoads } from '@/cases/loads/compareLoads';
import { serve } from '../../../answer';

export const GET = serve('GET /loads/compare', ({ ctx, viewer, query }) => compareLoads(ctx, viewer, query));
