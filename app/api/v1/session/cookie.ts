import { SESSION_HOURS } from '@/cases/people/signIn';
import { cookieName, isSecure } from '../../answer';

/** The cookie of a session; without a secret, one that ends it. */
export function sessionCookie(request: Request, secret: string | null): string {
  const secure = isSecure(request);
  const seconds = secret === null ? 0 : SESSION_HOURS * 3600;
  return `${cookieName(secure)}=${secret ?? ''}; Path=/; HttpOnly; SameSite=Lax; Max-Age=${seconds}${secure ? '; Secure' : ''}`;
}
