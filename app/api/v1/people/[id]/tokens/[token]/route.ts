import { revokeToken, tokensOf } from '@/cases/people/tokens';
import { idOf, serve } from '../../../../../answer';

export const DELETE = serve('DELETE /people/{id}/tokens/{token}', async ({ ctx, viewer, path: { id, token } }) => {
  await revokeToken(ctx, viewer, id, idOf('Token', token));
  return tokensOf(ctx, viewer, id);
});
