import { endSession, sessionsOf } from '@/cases/people/people';
import { answer, sessionOf } from '../../../../answer';

export const GET = answer(({ ctx, viewer, request }, { id }) => sessionsOf(ctx, viewer, id, sessionOf(request)));
/** Ends all of them but the one that asks. */
export const DELETE = answer(async ({ ctx, viewer, request }, { id }) => {
  await endSession(ctx, viewer, id, null, sessionOf(request));
  return sessionsOf(ctx, viewer, id, sessionOf(request));
});
