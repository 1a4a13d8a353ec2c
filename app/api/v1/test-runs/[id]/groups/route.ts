import { readGroups } from '@/cases/tests/hits';
import { idOf, serve } from '../../../../answer';

export const GET = serve('GET /test-runs/{id}/groups', ({ ctx, viewer, path: { id }, query }) =>
  readGroups(ctx, viewer, idOf('Run of tests', id), query),
);
