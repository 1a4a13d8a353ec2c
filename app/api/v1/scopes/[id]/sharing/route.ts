import { sharedSentence } from '@/cases/people/keptScopes';
import { changeSharing, showSharing } from '@/cases/people/sharing';
import { idOf, serve } from '../../../../answer';

export const GET = serve('GET /scopes/{id}/sharing', async ({ ctx, viewer, path: { id } }) =>
  showSharing(ctx, viewer, await sharedSentence(ctx, viewer, idOf('Sentence', id))),
);
export const PUT = serve('PUT /scopes/{id}/sharing', async ({ ctx, viewer, path: { id }, body }) =>
  changeSharing(ctx, viewer, await sharedSentence(ctx, viewer, idOf('Sentence', id)), body),
);
