import { copyBudget, showBudgets } from '@/cases/statements/budgetSheet';
import { serve } from '../../answer';

export const GET = serve('GET /budgets', ({ ctx, viewer, query }) => showBudgets(ctx, viewer, query));
export const POST = serve('POST /budgets', ({ ctx, viewer, body }) => copyBudget(ctx, viewer, body));
