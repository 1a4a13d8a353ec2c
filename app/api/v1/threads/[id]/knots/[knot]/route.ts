import { changeKnot, removeKnot } from '@/cases/evidence/threads/steps';
import { knotChangeSchema } from '@/contracts/bodies';
import { answer, body, idOf } from '../../../../../answer';

export const PUT = answer(async ({ ctx, viewer, request }, { id, knot }) =>
  changeKnot(ctx, viewer, idOf('Thread', id), idOf('Step', knot), await body(knotChangeSchema, request)),
);
export const DELETE = answer(({ ctx, viewer }, { id, knot }) =>
  removeKnot(ctx, viewer, idOf('Thread', id), idOf('Step', knot)),
);
