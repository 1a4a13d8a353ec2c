import { cookies, headers } from 'next/headers';
import { cache } from 'react';
import { context } from '@/cases/asking/context';
import type { Viewer } from '@/cases/asking/viewer';
import { viewerOfSession } from '@/cases/people/signIn';
import { cookieName, isSecure } from './api/answer';

/** Who is looking at a page, or null; looked up once for all of it. */
export const signedIn = cache(async (): Promise<Viewer | null> => {
  const secure = isSecure({ headers: (await headers()) as Headers });
  const secret = (await cookies()).get(cookieName(secure))?.value;
  return secret ? viewerOfSession(context(), secret) : null;
});
