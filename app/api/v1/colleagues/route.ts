import { colleagues } from '@/cases/people/colleagues';
import { serve } from '../../answer';

export const GET = serve('GET /colleagues', ({ ctx, viewer }) => colleagues(ctx, viewer));
