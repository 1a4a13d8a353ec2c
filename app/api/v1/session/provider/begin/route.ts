import { BEGUN_SECONDS, beginAtProvider } from '@/cases/people/provider';
import { isSecure, lead } from '../../../../answer';
import { begunCookie, notIn } from '../begun';

export const GET = lead('GET /session/provider/begin', async (request) => {
  const begun = await beginAtProvider(new URL(request.url).searchParams.get('to'));
  if (typeof begun === 'string') return notIn(begun);
  return { to: begun.url, cookies: [begunCookie(isSecure(request), begun.keeps, BEGUN_SECONDS)] };
});
