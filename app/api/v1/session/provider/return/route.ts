import { context } from '@/cases/asking/context';
import { signInFromProvider } from '@/cases/people/provider';
import { fromOf, isSecure, lead } from '../../../../answer';
import { sessionCookie } from '../../cookie';
import { BEGUN, begunCookie, notIn } from '../begun';

export const GET = lead('GET /session/provider/return', async (request) => {
  const { search } = new URL(request.url);
  const keeps = new RegExp(`(?:^|;\\s*)${BEGUN}=([\\w-]+)`).exec(request.headers.get('cookie') ?? '')?.[1] ?? null;
  const came = await signInFromProvider(context(), search.slice(1), keeps, fromOf(request));
  // What was begun is used once, whatever came of it.
  const gone = begunCookie(isSecure(request), '', 0);
  if (typeof came === 'string') return { ...notIn(came), cookies: [gone] };
  return { to: came.to, cookies: [gone, sessionCookie(request, came.secret)] };
});
