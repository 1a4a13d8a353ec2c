import { addToThread } from '@/cases/evidence/threads/keep';
import { moreKnotsSchema } from '@/contracts/bodies';
import { answer, body, idOf } from '../../../../answer';

export const POST = answer(async ({ ctx, viewer, request }, { id }) =>
  addToThread(ctx, viewer, idOf('Thread', id), (await body(moreKnotsSchema, request)).knots),
);
