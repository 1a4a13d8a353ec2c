import { context } from '@/cases/asking/context';
import { SESSION_HOURS, signIn, signOut } from '@/cases/people/people';
import { signInSchema } from '@/contracts/bodies';
import { answer, body, checkOrigin, cookieName, fromOf, guarded, isSecure, sessionOf } from '../../answer';

export const GET = answer(async ({ viewer }) => viewer);

export const POST = (request: Request): Promise<Response> =>
  guarded(async () => {
    checkOrigin(request);
    const { email, password } = await body(signInSchema, request);
    const secret = await signIn(context(), email, password, fromOf(request));
    return Response.json({ ok: true }, { headers: { 'set-cookie': cookie(request, secret, SESSION_HOURS * 3600) } });
  });

export const DELETE = (request: Request): Promise<Response> =>
  guarded(async () => {
    checkOrigin(request);
    const secret = sessionOf(request);
    if (secret) await signOut(context(), secret);
    return Response.json({ ok: true }, { headers: { 'set-cookie': cookie(request, '', 0) } });
  });

function cookie(request: Request, value: string, seconds: number): string {
  const secure = isSecure(request);
  return `${cookieName(secure)}=${value}; Path=/; HttpOnly; SameSite=Lax; Max-Age=${seconds}${secure ? '; Secure' : ''}`;
}
