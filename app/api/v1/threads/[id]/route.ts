import { changeThread, removeThread } from '@/cases/evidence/threads/keep';
import { showThread } from '@/cases/evidence/threads/shown';
import { threadChangeSchema } from '@/contracts/bodies';
import { answer, body, idOf } from '../../../answer';

export const GET = answer(({ ctx, viewer }, { id }) => showThread(ctx, viewer, idOf('Thread', id)));
export const PUT = answer(async ({ ctx, viewer, request }, { id }) =>
  changeThread(ctx, viewer, idOf('Thread', id), await body(threadChangeSchema, request)),
);
export const DELETE = answer(({ ctx, viewer }, { id }) => removeThread(ctx, viewer, idOf('Thread', id)));
