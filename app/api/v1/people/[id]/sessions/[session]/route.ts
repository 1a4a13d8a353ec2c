import { endSession, sessionsOf } from '@/cases/people/people';
import { answer, idOf, sessionOf } from '../../../../../answer';

export const DELETE = answer(async ({ ctx, viewer, request }, { id, session }) => {
  await endSession(ctx, viewer, id, idOf('Session', session), sessionOf(request));
  return sessionsOf(ctx, viewer, id, sessionOf(request));
});
