import { workDone } from '@/cases/desk/workDone';
import { serve } from '../../answer';

export const GET = serve('GET /completeness', ({ ctx, viewer, query }) => workDone(ctx, viewer, query));
