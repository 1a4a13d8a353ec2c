import { sharedThread } from '@/cases/evidence/threads/seenThreads';
import { changeSharing, showSharing } from '@/cases/people/sharing';
import { idOf, serve } from '../../../../answer';

export const GET = serve('GET /threads/{id}/sharing', async ({ ctx, viewer, path: { id } }) =>
  showSharing(ctx, viewer, await sharedThread(ctx, viewer, idOf('Thread', id))),
);
export const PUT = serve('PUT /threads/{id}/sharing', async ({ ctx, viewer, path: { id }, body }) =>
  changeSharing(ctx, viewer, await sharedThread(ctx, viewer, idOf('Thread', id)), body),
);
