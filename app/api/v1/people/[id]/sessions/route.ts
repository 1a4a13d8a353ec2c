import { endSession, sessionsOf } from '@/cases/people/sessions';
import { serve, sessionOf } from '../../../../answer';

export const GET = serve('GET /people/{id}/sessions', ({ ctx, viewer, request, path: { id } }) =>
  sessionsOf(ctx, viewer, id, sessionOf(request)),
);
/** Ends all of them but the one that asks. */
export const DELETE = serve('DELETE /people/{id}/sessions', async ({ ctx, viewer, request, path: { id } }) => {
  await endSession(ctx, viewer, id, null, sessionOf(request));
  return sessionsOf(ctx, viewer, id, sessionOf(request));
});
