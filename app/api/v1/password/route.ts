import { context } from '@/cases/asking/context';
import { changePassword, takeReset } from '@/cases/people/passwordChanges';
import { fromOf, serve, serveAnybody, sessionOf } from '../../answer';

/** Changes one's own password; all other sessions end. */
export const PUT = serve('PUT /password', ({ ctx, viewer, request, body }) =>
  changePassword(ctx, viewer, sessionOf(request), body, fromOf(request)),
);

/** Chooses a password by a link that an owner handed over. Nobody is signed in here. */
export const POST = serveAnybody('POST /password', async ({ body, request }) => {
  await takeReset(context(), body, fromOf(request));
  return { answer: { ok: true } };
});
