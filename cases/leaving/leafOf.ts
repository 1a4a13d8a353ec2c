import { PAGED } from '@/contracts/leaves';
import { wrong } from '@/contracts/problem';
import { type QueryOf, routes } from '@/contracts/routes';
import { readQuery } from '@/contracts/scope';
import type { Leaf } from '@/core/leaf';
import type { Context } from '../asking/context';
import type { Viewer } from '../asking/viewer';
import { linesLeaf } from './linesLeaf';
import { hitsLeaf, misstatementsLeaf, openDocumentsLeaf, registerLeaf } from './listLeaves';
import { splitLeaf } from './splitLeaf';
import { statementLeaf } from './statementLeaf';
import { trialBalanceLeaf } from './trialBalanceLeaf';

/** Routes whose sheets leave, and what makes them so. `of` is what the path names: a statement, a run. */
const LEAVES = {
  'GET /trial-balance': (ctx, viewer, _of, query) =>
    trialBalanceLeaf(ctx, viewer, query as QueryOf<'GET /trial-balance'>),
  'GET /sheets': (ctx, viewer, _of, query) => splitLeaf(ctx, viewer, query as QueryOf<'GET /sheets'>),
  'GET /lines': (ctx, viewer, _of, query) => linesLeaf(ctx, viewer, query as QueryOf<'GET /lines'>),
  'GET /statements/{code}': (ctx, viewer, of, query) =>
    statementLeaf(ctx, viewer, of, query as QueryOf<'GET /statements/{code}'>),
  'GET /documents': (ctx, viewer, _of, query) => openDocumentsLeaf(ctx, viewer, query as QueryOf<'GET /documents'>),
  'GET /document-register': (ctx, viewer, _of, query) =>
    registerLeaf(ctx, viewer, query as QueryOf<'GET /document-register'>),
  'GET /test-runs/{id}/hits': (ctx, viewer, of, query) =>
    hitsLeaf(ctx, viewer, Number(of), query as QueryOf<'GET /test-runs/{id}/hits'>),
  'GET /misstatements': (ctx, viewer, _of, query) =>
    misstatementsLeaf(ctx, viewer, query as QueryOf<'GET /misstatements'>),
} as const satisfies Record<string, (ctx: Context, viewer: Viewer, of: string, query: unknown) => Promise<Leaf>>;

export type LeavingRoute = keyof typeof LEAVES;

const LEAVING_ROUTES = Object.keys(LEAVES) as LeavingRoute[];

/** The route that a path asks, and what it names. */
function routeOf(pathname: string): { name: LeavingRoute; of: string } | null {
  for (const name of LEAVING_ROUTES) {
    const pattern = name.slice('GET '.length).replace(/\{\w+\}/, '([^/]+)');
    const found = new RegExp(`^${pattern}$`).exec(pathname);
    if (found) return { name, of: decodeURIComponent(found[1] ?? '') };
  }
  return null;
}

/** Those that ask a figure, which may be heavy. */
const OF_SCOPE: ReadonlySet<string> = new Set([
  ...['GET /trial-balance', 'GET /sheets', 'GET /lines', 'GET /statements/{code}', 'GET /documents'],
]);

/** Whether a sheet is of a figure, whose canonical address says as whose grant it was asked. */
export const isOfFigure = (path: string): boolean => OF_SCOPE.has(sheetPath(path).name);

/** A path and its query, as they are kept: of this interface, without what says how it leaves. @throws ProblemError */
export function sheetPath(path: string): { name: LeavingRoute; of: string; params: URLSearchParams } {
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
  const { name, of, params } = sheetPath(path);
  return leafOfRoute(ctx, viewer, name, of, readQuery(routes[name].query, params));
}

export async function leafOfRoute(
  ctx: Context,
  viewer: Viewer,
  name: LeavingRoute,
  of: string,
  query: object,
): Promise<Leaf> {
  // Whoever has a sheet leave waits for all of it.
  return LEAVES[name](ctx, viewer, of, OF_SCOPE.has(name) ? { ...query, heavy: 'run' } : query);
}
