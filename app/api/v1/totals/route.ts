import { readTotals } from '@/cases/sheets/readTotals';
import { serve } from '../../answer';

export const GET = serve('GET /totals', ({ ctx, viewer, query }) => readTotals(ctx, viewer, query));
