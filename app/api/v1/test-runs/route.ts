import { beginRun, listRuns } from '@/cases/tests/runs';
import { serve } from '../../answer';

export const GET = serve('GET /test-runs', ({ ctx, viewer, query }) => listRuns(ctx, viewer, query));
export const POST = serve('POST /test-runs', ({ ctx, viewer, body }) => beginRun(ctx, viewer, body));
