import type { RouteName } from '@/contracts/routes';

/** A problem as the API tells it, with the sentence to show. */
export class ProblemAnswer extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    readonly errors: { path: string; message: string; put?: Record<string, string[]> }[],
    /** What the server told it by, such as urn:just-thread:heavy. */
    readonly kind: string = 'about:blank',
  ) {
    super(errors.length > 0 ? errors.map((e) => e.message).join('; ') : title);
  }
}

/** An answer, unless it is a problem; who is not signed in is led to where they do. @throws ProblemAnswer */
export function checked(name: RouteName, status: number, answer: unknown): unknown {
  if (status === 401 && !name.endsWith(' /session')) {
    const { pathname, search } = window.location;
    window.location.assign(`/sign-in?to=${encodeURIComponent(pathname + search)}`);
  }
  if (status >= 200 && status < 300) return answer;
  const { title, type, errors } = (answer ?? {}) as { title?: string; type?: string; errors?: ProblemAnswer['errors'] };
  throw new ProblemAnswer(status, title ?? 'The server did not answer; try again', errors ?? [], type);
}
