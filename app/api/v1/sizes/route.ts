import { readSizes } from '@/cases/pictures/sizes';
import { serve } from '../../answer';

export const GET = serve('GET /sizes', ({ ctx, viewer, query }) => readSizes(ctx, viewer, query));
