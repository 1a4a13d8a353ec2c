import { comparedRuns } from '@/cases/tests/hits';
import { idOf, serve } from '../../../../answer';

export const GET = serve('GET /test-runs/{id}/compared', ({ ctx, viewer, path: { id }, query }) =>
  comparedRuns(ctx, viewer, idOf('Run of tests', id), query.with),
);
