import { makeOwnToken, revokeToken, tokensOf } from '@/cases/people/people';
import { newTokenSchema } from '@/contracts/bodies';
import { forbidden } from '@/contracts/problem';
import { answer, body } from '../../../../answer';

export const GET = answer(({ ctx, viewer }, { id }) => tokensOf(ctx, viewer, id));
/** A token of one's own; it is shown this once. */
export const POST = answer(async ({ ctx, viewer, request }, { id }) => {
  if (id !== 'me' && id !== String(viewer.id))
    throw forbidden('A token acts as whoever makes it; make it for yourself');
  return makeOwnToken(ctx, viewer, await body(newTokenSchema, request));
}, 201);
/** Revokes all of them. */
export const DELETE = answer(async ({ ctx, viewer }, { id }) => {
  await revokeToken(ctx, viewer, id, null);
  return tokensOf(ctx, viewer, id);
});
