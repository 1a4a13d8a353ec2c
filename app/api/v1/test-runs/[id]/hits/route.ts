import { readHits } from '@/cases/tests/hits';
import { idOf, serve } from '../../../../answer';

export const GET = serve('GET /test-runs/{id}/hits', ({ ctx, viewer, path: { id }, query }) =>
  readHits(ctx, viewer, idOf('Run of tests', id), query),
);
