import { readDigits } from '@/cases/sheets/readDigits';
import { serve } from '../../answer';

export const GET = serve('GET /first-digits', ({ ctx, viewer, query }) => readDigits(ctx, viewer, query));
