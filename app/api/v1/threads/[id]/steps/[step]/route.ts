import { changeStep, removeStep } from '@/cases/evidence/threads/steps';
import { stepChangeSchema } from '@/contracts/bodies';
import { answer, body, idOf } from '../../../../../answer';

export const PUT = answer(async ({ ctx, viewer, request }, { id, step }) =>
  changeStep(ctx, viewer, idOf('Thread', id), idOf('Step', step), await body(stepChangeSchema, request)),
);
export const DELETE = answer(({ ctx, viewer }, { id, step }) =>
  removeStep(ctx, viewer, idOf('Thread', id), idOf('Step', step)),
);
