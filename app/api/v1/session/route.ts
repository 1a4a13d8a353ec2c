import { context } from '@/cases/asking/context';
import { SESSION_HOURS, signIn, signOut } from '@/cases/people/signIn';
import { cookieName, fromOf, isSecure, serve, serveAnybody, sessionOf } from '../../answer';

export const GET = serve('GET /session', async ({ viewer }) => viewer);

export const POST = serveAnybody('POST /session', async ({ request, body: { email, password, code } }) => {
  const secret = await signIn(context(), email, password, fromOf(request), code);
  return { answer: { ok: true }, headers: { 'set-cookie': cookie(request, secret, SESSION_HOURS * 3600) } };
});

export const DELETE = serveAnybody('DELETE /session', async ({ request }) => {
  const secret = sessionOf(request);
  if (secret) await signOut(context(), secret);
  return { answer: { ok: true }, headers: { 'set-cookie': cookie(request, '', 0) } };
});

function cookie(request: Request, value: string, seconds: number): string {
  const secure = isSecure(request);
  return `${cookieName(secure)}=${value}; Path=/; HttpOnly; SameSite=Lax; Max-Age=${seconds}${secure ? '; Secure' : ''}`;
}
