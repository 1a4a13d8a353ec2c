import { cookies } from 'next/headers';
import { context } from '@/cases/context';
import { viewerOfSession } from '@/cases/people';
import type { Viewer } from '@/cases/viewer';
import { SESSION_COOKIE } from './api/answer';

/** Who is looking at a page, or null. */
export async function signedIn(): Promise<Viewer | null> {
  const secret = (await cookies()).get(SESSION_COOKIE)?.value;
  return secret ? viewerOfSession(context(), secret) : null;
}
