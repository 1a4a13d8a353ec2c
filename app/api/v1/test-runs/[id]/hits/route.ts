import { readHits } from '@/cases/tests/hits';
import { idOf } from '../../../../answer';
import { serveSheet } from '../../../../sheetRoute';

export const GET = serveSheet('GET /test-runs/{id}/hits', ({ ctx, viewer, path: { id }, query }) =>
  readHits(ctx, viewer, idOf('Run of tests', id), query),
);
