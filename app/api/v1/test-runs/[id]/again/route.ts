import { runAgain } from '@/cases/tests/runs';
import { idOf, serve } from '../../../../answer';

export const POST = serve('POST /test-runs/{id}/again', ({ ctx, viewer, path: { id } }) =>
  runAgain(ctx, viewer, idOf('Run of tests', id)),
);
