import { showPanel } from '@/cases/leaving/overviews';
import { idOf, serve } from '../../../../../answer';

export const GET = serve('GET /overviews/{id}/panels/{key}', ({ ctx, viewer, query, path: { id, key } }) =>
  showPanel(ctx, viewer, idOf('Overview', id), key, query),
);
