import { readColumnLayouts } from '@/cases/people/preferences';
import { serve } from '../../answer';

export const GET = serve('GET /columns', ({ ctx, viewer }) => readColumnLayouts(ctx, viewer));
