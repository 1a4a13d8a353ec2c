import { ignoreNoLonger } from '@/cases/tests/ignored';
import { idOf, serve } from '../../../answer';

export const DELETE = serve('DELETE /ignored-hits/{id}', ({ ctx, viewer, path: { id } }) =>
  ignoreNoLonger(ctx, viewer, idOf('Rule', id)),
);
