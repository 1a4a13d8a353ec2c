import { readMarkRules, setMarkRules } from '@/cases/sheets/marks';
import { markRulesSchema } from '@/contracts/bodies';
import { answer, body } from '../../../answer';

export const GET = answer(({ ctx }) => readMarkRules(ctx));
export const PUT = answer(async ({ ctx, viewer, request }) =>
  setMarkRules(ctx, viewer, await body(markRulesSchema, request)),
);
