import { context } from '@/cases/asking/context';
import { signIn, signOut } from '@/cases/people/signIn';
import { fromOf, serve, serveAnybody, sessionOf } from '../../answer';
import { sessionCookie } from './cookie';

export const GET = serve('GET /session', async ({ viewer: { cameFrom: _, ...me } }) => me);

export const POST = serveAnybody('POST /session', async ({ request, body: { email, password, code } }) => {
  const secret = await signIn(context(), email, password, fromOf(request), code);
  return { answer: { ok: true }, headers: { 'set-cookie': sessionCookie(request, secret) } };
});

export const DELETE = serveAnybody('DELETE /session', async ({ request }) => {
  const secret = sessionOf(request);
  if (secret) await signOut(context(), secret);
  return { answer: { ok: true }, headers: { 'set-cookie': sessionCookie(request, null) } };
});
