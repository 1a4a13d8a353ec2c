import { context } from '@/cases/context';
import { SESSION_HOURS, signIn, signOut } from '@/cases/people';
import { signInSchema } from '@/contracts/bodies';
import { answer, body, checkOrigin, guarded, SESSION_COOKIE, sessionOf } from '../../answer';

export const GET = answer(async ({ viewer }) => viewer);

export const POST = (request: Request): Promise<Response> =>
  guarded(async () => {
    checkOrigin(request);
    const { email, password } = await body(signInSchema, request);
    const address = request.headers.get('x-forwarded-for')?.split(',')[0]?.trim() ?? 'local';
    const secret = await signIn(context(), email, password, address);
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
  const secure = (request.headers.get('x-forwarded-proto') ?? new URL(request.url).protocol).startsWith('https');
  return `${SESSION_COOKIE}=${value}; Path=/; HttpOnly; SameSite=Lax; Max-Age=${seconds}${secure ? '; Secure' : ''}`;
}
