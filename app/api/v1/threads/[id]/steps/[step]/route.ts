import { changeStep, removeStep } from '@/cases/evidence/threads/steps';
import { idOf, serve } from '../../../../../answer';

export const PUT = serve('PUT /threads/{id}/steps/{step}', ({ ctx, viewer, body, path: { id, step } }) =>
  changeStep(ctx, viewer, idOf('Thread', id), idOf('Step', step), body),
);
export const DELETE = serve('DELETE /threads/{id}/steps/{step}', ({ ctx, viewer, path: { id, step } }) =>
  removeStep(ctx, viewer, idOf('Thread', id), idOf('Step', step)),
);
