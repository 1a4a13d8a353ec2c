import type { AnswerOf, BodySent, PathOf, RouteName } from '@/contracts/routes';

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

/** What is sent with a request to a route. */
export type Sent<Name extends RouteName> = {
  query?: URLSearchParams | undefined;
  body?: BodySent<Name> | FormData | undefined;
  signal?: AbortSignal | undefined;
} & (keyof PathOf<Name> extends never ? { path?: undefined } : { path: Record<keyof PathOf<Name>, string | number> });

/** The path of a route with its names filled in. */
export const pathTo = (name: RouteName, path: Record<string, string | number> = {}): string =>
  name.slice(name.indexOf(' ') + 1).replace(/\{(\w+)\}/g, (_, key: string) => encodeURIComponent(String(path[key])));

/** The one way to the API: what a route answers. @throws ProblemAnswer */
export async function ask<Name extends RouteName>(
  name: Name,
  ...[sent]: keyof PathOf<Name> extends never ? [sent?: Sent<Name>] : [sent: Sent<Name>]
): Promise<AnswerOf<Name>> {
  const { query, body, signal } = sent ?? {};
  const path = pathTo(name, sent?.path);
  const isForm = body instanceof FormData;
  const response = await fetch(`/api/v1${path}${query ? `?${query}` : ''}`, {
    method: name.slice(0, name.indexOf(' ')),
    ...(signal ? { signal } : {}),
    ...(body === undefined ? {} : { body: isForm ? body : JSON.stringify(body) }),
    ...(body === undefined || isForm ? {} : { headers: { 'content-type': 'application/json' } }),
  });
  const answer = (await response.json().catch(() => null)) as {
    title?: string;
    type?: string;
    errors?: ProblemAnswer['errors'];
  } | null;
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
  return answer as AnswerOf<Name>;
}
