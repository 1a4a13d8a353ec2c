import { removeRun, showRun } from '@/cases/tests/runs';
import { idOf, serve } from '../../../answer';

export const GET = serve('GET /test-runs/{id}', ({ ctx, viewer, path: { id } }) =>
  showRun(ctx, viewer, idOf('Run of tests', id)),
);
export const DELETE = serve('DELETE /test-runs/{id}', ({ ctx, viewer, path: { id } }) =>
  removeRun(ctx, viewer, idOf('Run of tests', id)),
);
