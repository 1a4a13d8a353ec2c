import { keepBudget, readBudget } from '@/cases/statements/budgetSheet';
import { budgetVersionSchema } from '@/contracts/bodies/all';
import { serve } from '../../../answer';

const named = (version: string | undefined): string => budgetVersionSchema.parse(version);

export const GET = serve('GET /budgets/{version}', ({ ctx, viewer, query, path: { version } }) =>
  readBudget(ctx, viewer, named(version), query),
);
export const PUT = serve('PUT /budgets/{version}', ({ ctx, viewer, body, path: { version } }) =>
  keepBudget(ctx, viewer, named(version), body),
);
