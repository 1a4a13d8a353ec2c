import type { RouteName } from '@/contracts/routes';

/** The path of a route with its names filled in. */
export const pathTo = (name: RouteName, path: Record<string, string | number> = {}): string =>
  name.slice(name.indexOf(' ') + 1).replace(/\{(\w+)\}/g, (_, key: string) => encodeURIComponent(String(path[key])));

/** Under what the answer of a route to a question is remembered. */
export const keyOf = (
  name: RouteName,
  path: Record<string, string | number> | undefined,
  query: URLSearchParams | null,
): readonly [path: string, asked: string] => [pathTo(name, path), query?.toString() ?? ''];
