import { revokeToken, tokensOf } from '@/cases/people/people';
import { answer, idOf } from '../../../../../answer';

export const DELETE = answer(async ({ ctx, viewer }, { id, token }) => {
  await revokeToken(ctx, viewer, id, idOf('Token', token));
  return tokensOf(ctx, viewer, id);
});
