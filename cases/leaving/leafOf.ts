import { notFound, wrong } from '@/contracts/problem';
import { type QueryOf, routes } from '@/contracts/routes';
import { readQuery } from '@/contracts/scope';
import type { Leaf } from '@/core/leaf';
import type { Context } from '../asking/context';
import type { Viewer } from '../asking/viewer';
import { linesLeaf } from './linesLeaf';
import { splitLeaf } from './splitLeaf';
import { statementLeaf } from './statementLeaf';
import { trialBalanceLeaf } from './trialBalanceLeaf';

/** A page of a ledger is not asked for where all of it leaves. */
const PAGED = ['limit', 'after', 'at', 'first'];

/** Routes whose sheets leave, and what makes them so. */
const LEAVES = {
  'GET /trial-balance': (ctx, viewer, _code, query) =>
    trialBalanceLeaf(ctx, viewer, query as QueryOf<'GET /trial-balance'>),
  'GET /sheets': (ctx, viewer, _code, query) => splitLeaf(ctx, viewer, query as QueryOf<'GET /sheets'>),
  'GET /lines': (ctx, viewer, _code, query) => linesLeaf(ctx, viewer, query as QueryOf<'GET /lines'>),
  'GET /statements/{code}': (ctx, viewer, code, query) =>
    statementLeaf(ctx, viewer, code, query as QueryOf<'GET /statements/{code}'>),
} as const satisfies Record<string, (ctx: Context, viewer: Viewer, code: string, query: unknown) => Promise<Leaf>>;

export type LeavingRoute = keyof typeof LEAVES;

export const LEAVING_ROUTES = Object.keys(LEAVES) as LeavingRoute[];

/** The route that a path asks, and the code of the statement in it. */
function routeOf(pathname: string): { name: LeavingRoute; code: string } | null {
  const [, code] = /^\/statements\/([^/]+)$/.exec(pathname) ?? [];
  if (code !== undefined) return { name: 'GET /statements/{code}', code: decodeURIComponent(code) };
  const name = LEAVING_ROUTES.find((route) => route === `GET ${pathname}`);
  return name ? { name, code: '' } : null;
}

/** A path and its query, as they are kept: of this interface, without what says how it leaves. @throws ProblemError */
export function sheetPath(path: string): { name: LeavingRoute; code: string; params: URLSearchParams } {
  const here = 'http://sheet.invalid';
  const url = path.startsWith('/') && URL.canParse(path, here) ? new URL(path, here) : null;
  const pathname = url?.origin === here ? url.pathname.replace(/^\/api\/v1(?=\/)/, '') : '';
  const route = routeOf(pathname);
  if (!url || !route)
    throw wrong('path', 'give the path of a sheet: /trial-balance?…, /statements/CODE?…, /sheets?… or /lines?…');
  const params = new URLSearchParams(url.search);
  for (const name of PAGED) params.delete(name);
  return { ...route, params };
}

/** The sheet of a path as it leaves, as its viewer may see it. @throws ProblemError as its route does */
export async function leafOf(ctx: Context, viewer: Viewer, path: string): Promise<Leaf> {
  const { name, code, params } = sheetPath(path);
  return leafOfRoute(ctx, viewer, name, code, readQuery(routes[name].query, params));
}

export async function leafOfRoute(
  ctx: Context,
  viewer: Viewer,
  name: LeavingRoute,
  code: string,
  query: object,
): Promise<Leaf> {
  const make: (ctx: Context, viewer: Viewer, code: string, query: unknown) => Promise<Leaf> = LEAVES[name];
  if (!make) throw notFound(name);
  // Whoever has a sheet leave waits for all of it.
  return make(ctx, viewer, code, { ...query, heavy: 'run' });
}
