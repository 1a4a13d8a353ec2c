import { keepBudget, readBudget } from '@/cases/statements/budgetSheet';
import { budgetEditSchema, budgetVersionSchema } from '@/contracts/bodies';
import { budgetShape } from '@/contracts/questions';
import { answer, body, query } from '../../../answer';

const named = (version: string | undefined): string => budgetVersionSchema.parse(version);

export const GET = answer((asking, { version }) =>
  readBudget(asking.ctx, asking.viewer, named(version), query(budgetShape, asking)),
);
export const PUT = answer(
  async ({ ctx, viewer, request }, { version }) =>
    keepBudget(ctx, viewer, named(version), await body(budgetEditSchema, request)),
  202,
);
