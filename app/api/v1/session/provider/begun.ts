import type { NotIn } from '@/cases/people/provider';

/** What only the browser that began knows until it comes back; no page reads it, and it goes to these two routes alone. */
export const BEGUN = 'just_thread_begun';

export const begunCookie = (secure: boolean, value: string, seconds: number): string =>
  `${BEGUN}=${value}; Path=/api/v1/session/provider; HttpOnly; SameSite=Lax; Max-Age=${seconds}${secure ? '; Secure' : ''}`;

/** The page of signing in, which says why somebody did not come in. */
export const notIn = (why: NotIn): { to: string } => ({ to: `/sign-in?not-in=${why}` });
