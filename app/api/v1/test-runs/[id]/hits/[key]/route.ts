import { judgeHit } from '@/cases/tests/hits';
import { idOf, serve } from '../../../../../answer';

export const PUT = serve('PUT /test-runs/{id}/hits/{key}', ({ ctx, viewer, path: { id, key }, body }) =>
  judgeHit(ctx, viewer, { run: idOf('Run of tests', id), key }, body),
);
