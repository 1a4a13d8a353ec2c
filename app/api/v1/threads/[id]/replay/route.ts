import { replayThread } from '@/cases/evidence/threads/replay';
import { idOf, serve } from '../../../../answer';

export const GET = serve('GET /threads/{id}/replay', ({ ctx, viewer, query, path: { id } }) =>
  replayThread(ctx, viewer, idOf('Thread', id), query),
);
