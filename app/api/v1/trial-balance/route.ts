import { readTrialBalance } from '@/cases/sheets/readTrialBalance';
import { serve } from '../../answer';

export const GET = serve('GET /trial-balance', ({ ctx, viewer, query }) => readTrialBalance(ctx, viewer, query));
