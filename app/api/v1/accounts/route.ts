import { readAccounts } from '@/cases/charts/accounts';
import { serve } from '../../answer';

export const GET = serve('GET /accounts', ({ ctx, viewer, query }) => readAccounts(ctx, viewer, query));
