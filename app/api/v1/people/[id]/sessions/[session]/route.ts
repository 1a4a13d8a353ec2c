import { endSession, sessionsOf } from '@/cases/people/sessions';
import { idOf, serve, sessionOf } from '../../../../../answer';

export const DELETE = serve(
  'DELETE /people/{id}/sessions/{session}',
  async ({ ctx, viewer, request, path: { id, session } }) => {
    await endSession(ctx, viewer, id, idOf('Session', session), sessionOf(request));
    return sessionsOf(ctx, viewer, id, sessionOf(request));
  },
);
