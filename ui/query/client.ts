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

interface Request {
  method?: 'GET' | 'POST' | 'PUT' | 'DELETE';
  body?: unknown;
  signal?: AbortSignal;
}

/** The one way to the API. @throws ProblemAnswer */
export async function ask<Answer>(path: string, { method = 'GET', body, signal }: Request = {}): Promise<Answer> {
  const isForm = body instanceof FormData;
  const response = await fetch(`/api/v1${path}`, {
    method,
    ...(signal ? { signal } : {}),
    ...(body === undefined ? {} : { body: isForm ? body : JSON.stringify(body) }),
    ...(body === undefined || isForm ? {} : { headers: { 'content-type': 'application/json' } }),
  });
  const answer = (await response.json().catch(() => null)) as
    | (Answer & { title?: string; type?: string; errors?: ProblemAnswer['errors'] })
    | null;
  if (response.status === 401 && !path.startsWith('/session')) {
    const { pathname, search } = window.location;
    window.location.assign(`/sign-in?to=${encodeURIComponent(pathname + search)}`);
  }
  if (!response.ok)
    throw new ProblemAnswer(
      response.status,
      answer?.title ?? 'The server did not answer; try again',
      answer?.errors ?? [],
      answer?.type,
    );
  return answer as Answer;
}
