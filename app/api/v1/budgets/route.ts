import { copyBudget, showBudgets } from '@/cases/statements/budgetSheet';
import { budgetCopySchema } from '@/contracts/bodies';
import { budgetsShape } from '@/contracts/questions';
import { answer, body, query } from '../../answer';

export const GET = answer((asking) => showBudgets(asking.ctx, asking.viewer, query(budgetsShape, asking)));
export const POST = answer(
  async ({ ctx, viewer, request }) => copyBudget(ctx, viewer, await body(budgetCopySchema, request)),
  202,
);
