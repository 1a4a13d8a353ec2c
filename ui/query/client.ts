import { isAskedTogether } from '@/contracts/askedTogether';
import type { AnswerOf, BodySent, PathOf, RouteName } from '@/contracts/routes';
import { pathTo } from './keys';
import { checked } from './problemAnswer';
import { askTogether } from './together';

/** What is sent with a request to a route. */
export type Sent<Name extends RouteName> = {
  query?: URLSearchParams | undefined;
  body?: BodySent<Name> | FormData | undefined;
  signal?: AbortSignal | undefined;
} & (keyof PathOf<Name> extends never ? { path?: undefined } : { path: Record<keyof PathOf<Name>, string | number> });

/** The one way to the API: what a route answers. @throws ProblemAnswer */
export async function ask<Name extends RouteName>(
  name: Name,
  ...[sent]: keyof PathOf<Name> extends never ? [sent?: Sent<Name>] : [sent: Sent<Name>]
): Promise<AnswerOf<Name>> {
  const { query, body, signal } = sent ?? {};
  if (isAskedTogether(name)) return (await askTogether(name, sent?.path ?? {}, query, signal)) as AnswerOf<Name>;
  const path = pathTo(name, sent?.path);
  const isForm = body instanceof FormData;
  const response = await fetch(`/api/v1${path}${query ? `?${query}` : ''}`, {
    method: name.slice(0, name.indexOf(' ')),
    ...(signal ? { signal } : {}),
    ...(body === undefined ? {} : { body: isForm ? body : JSON.stringify(body) }),
    ...(body === undefined || isForm ? {} : { headers: { 'content-type': 'application/json' } }),
  });
  return checked(name, response.status, await response.json().catch(() => null)) as AnswerOf<Name>;
}
