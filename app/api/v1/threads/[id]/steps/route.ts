import { addToThread } from '@/cases/evidence/threads/keep';
import { moreStepsSchema } from '@/contracts/bodies';
import { answer, body, idOf } from '../../../../answer';

export const POST = answer(async ({ ctx, viewer, request }, { id }) =>
  addToThread(ctx, viewer, idOf('Thread', id), (await body(moreStepsSchema, request)).steps),
);
