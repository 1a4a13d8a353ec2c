import { readDimensions } from '@/cases/charts/dimensions';
import { serve } from '../../answer';

export const GET = serve('GET /dimensions', ({ ctx, viewer, query }) => readDimensions(ctx, viewer, query));
