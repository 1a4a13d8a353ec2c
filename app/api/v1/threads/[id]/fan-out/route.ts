import { fanOut } from '@/cases/evidence/threads/fanOut';
import { idOf, serve } from '../../../../answer';

export const GET = serve('GET /threads/{id}/fan-out', ({ ctx, viewer, query, path: { id } }) =>
  fanOut(ctx, viewer, idOf('Thread', id), query.by),
);
