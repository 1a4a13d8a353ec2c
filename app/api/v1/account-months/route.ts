import { readAccountMonths } from '@/cases/pictures/accountMonths';
import { serve } from '../../answer';

export const GET = serve('GET /account-months', ({ ctx, viewer, query }) => readAccountMonths(ctx, viewer, query));
