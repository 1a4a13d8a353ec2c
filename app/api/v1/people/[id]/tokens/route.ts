import { makeOwnToken, revokeToken, tokensOf } from '@/cases/people/tokens';
import { forbidden } from '@/contracts/problem';
import { serve } from '../../../../answer';

export const GET = serve('GET /people/{id}/tokens', ({ ctx, viewer, path: { id } }) => tokensOf(ctx, viewer, id));
/** A token of one's own; it is shown this once. */
export const POST = serve('POST /people/{id}/tokens', ({ ctx, viewer, body, path: { id } }) => {
  if (id !== 'me' && id !== String(viewer.id))
    throw forbidden('A token acts as whoever makes it; make it for yourself');
  return makeOwnToken(ctx, viewer, body);
});
/** Revokes all of them. */
export const DELETE = serve('DELETE /people/{id}/tokens', async ({ ctx, viewer, path: { id } }) => {
  await revokeToken(ctx, viewer, id, null);
  return tokensOf(ctx, viewer, id);
});
