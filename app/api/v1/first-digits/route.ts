import { readDigits } from '@/cases/pictures/digits';
import { serve } from '../../answer';

export const GET = serve('GET /first-digits', ({ ctx, viewer, query }) => readDigits(ctx, viewer, query));
