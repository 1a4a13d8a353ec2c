import { ZodError, z } from 'zod';
import { connectionFault } from '@/cases/asking/connectionFault';
import { type Context, context, logged, NoTurn, whoAsks } from '@/cases/asking/context';
import { looked } from '@/cases/asking/looked';
import { tookTooLong } from '@/cases/asking/tookTooLong';
import type { Viewer } from '@/cases/asking/viewer';
import { answered } from '@/cases/jobs/askAtLength';
import { StoreAway } from '@/cases/loads/keptFiles';
import { type From, viewerOfSession, viewerOfToken } from '@/cases/people/signIn';
import { BODY_MAX, TOO_LARGE } from '@/contracts/bodies/all';
import { notFound, ProblemError } from '@/contracts/problem';
import {
  type AnswerOf,
  type BodyOf,
  type PathOf,
  type QueryOf,
  type ReadonlyDeep,
  type Route,
  type RouteName,
  routes,
} from '@/contracts/routes';
import { readQuery } from '@/contracts/scope';

/** Under https a browser takes the cookie from this host alone, and from no part of it (`__Host-`, RFC 6265bis). */
const COOKIE = 'just_thread_session';
export const cookieName = (secure: boolean): string => (secure ? `__Host-${COOKIE}` : COOKIE);

/** A request to a route, checked: who asks, and what. */
export interface Asking<Name extends RouteName> {
  ctx: Context;
  viewer: Viewer;
  request: Request;
  params: URLSearchParams;
  path: PathOf<Name>;
  query: QueryOf<Name>;
  body: BodyOf<Name>;
}

interface Called {
  params: Promise<Record<string, string>>;
  /** Who asks, where a route that is asked several questions at once knows it already; a request alone cannot say it. */
  viewer?: Viewer;
}
export type Handler = (request: Request, called: Called) => Promise<Response>;
type Given<Name extends RouteName> = [AnswerOf<Name>] extends [never]
  ? Response
  : [AnswerOf<Name>] extends [null]
    ? // biome-ignore lint/suspicious/noConfusingVoidType: a use case that has nothing to tell gives nothing
      null | undefined | void
    : ReadonlyDeep<AnswerOf<Name>> | Response;

/**
 * A route that answers a signed-in viewer: checks who asks and what, calls one use case, sends its answer or the problem.
 * @param use gives what the route promises; what does not fit is refused by the compiler, and in tests parsed
 */
export function serve<Name extends RouteName>(
  name: Name,
  use: (asking: Asking<Name>) => Promise<Given<Name>>,
): Handler {
  const route: Route = routes[name];
  return (request, { params: named, viewer: given }) =>
    guarded(async () => {
      const ctx = context();
      const viewer = given ?? (await viewerOf(ctx, request));
      const waiting = whoAsks();
      if (waiting) waiting.person = viewer.email;
      const { searchParams: params } = new URL(request.url);
      if (waiting && viewer.role === 'owner' && params.get('explain') === 'yes') waiting.explained = [];
      const asking = {
        ctx,
        viewer,
        request,
        params,
        path: await named,
        query: route.query ? readQuery(route.query, params) : undefined,
        body: route.body && !route.multipart ? await body(route.body, request) : undefined,
      } as Asking<Name>;
      // Whoever asks very much at once waits for their own before any of it is begun; what changes something waits for nobody.
      const value =
        waiting && request.method === 'GET'
          ? await ctx.questions.run(viewer.email, waiting.signal, () =>
              answered(ctx, viewer, name, asking, waiting.signal, (query) => use({ ...asking, query })),
            )
          : await use(asking);
      if (request.method === 'GET') looked(ctx, viewer, new URL(request.url));
      return explaining(value instanceof Response ? value : json(route, value ?? null));
    });
}

/** What answered, and in which time, for whoever asked to be told (Server-Timing, W3C). */
function explaining(response: Response): Response {
  const told = whoAsks()?.explained?.map(
    ({ of, why, ms }, i) => `q${i + 1};dur=${ms};desc="${of}${why ? `: ${why}` : ''}"`,
  );
  if (told?.length) response.headers.set('server-timing', told.join(', '));
  return response;
}

/** A route of those who are not signed in, taken from our own pages only. */
export function serveAnybody<Name extends RouteName>(
  name: Name,
  use: (asking: Pick<Asking<Name>, 'request' | 'body'>) => Promise<{ answer: AnswerOf<Name>; headers?: HeadersInit }>,
): (request: Request) => Promise<Response> {
  const route: Route = routes[name];
  return (request) =>
    guarded(async () => {
      checkOrigin(request);
      const sent = route.body ? await body(route.body, request) : undefined;
      const { answer, headers } = await use({ request, body: sent as BodyOf<Name> });
      const response = json(route, answer);
      for (const [header, value] of new Headers(headers)) response.headers.append(header, value);
      return response;
    });
}

/** A route that leads a browser on to a page, here or elsewhere; whoever asks it is not signed in yet. */
export function lead<Name extends RouteName>(
  _name: Name,
  use: (request: Request) => Promise<{ to: string; cookies?: string[] }>,
): (request: Request) => Promise<Response> {
  return (request) =>
    guarded(async () => {
      const { to, cookies = [] } = await use(request);
      const headers = new Headers({ location: to, 'cache-control': 'no-store', 'referrer-policy': 'no-referrer' });
      for (const cookie of cookies) headers.append('set-cookie', cookie);
      return new Response(null, { status: 303, headers });
    });
}

/** What every test asks for: an answer that is not as its route promises is a fault. */
const CHECKED = process.env.VITEST !== undefined || process.env.JUST_THREAD_CHECK_ANSWERS === 'yes';

function json(route: Route, value: unknown): Response {
  const { status = 200 } = route;
  const response = Response.json(value, { status, headers: { 'cache-control': 'private, no-store' } });
  if (CHECKED && route.answer) {
    const { error } = route.answer.safeParse(JSON.parse(JSON.stringify(value)));
    if (error) throw new Error(`“${route.summary}” answers what it does not promise: ${z.prettifyError(error)}`);
  }
  return response;
}

/** Any failure becomes problem+json; none takes the server down or tells of its insides. */
export async function guarded(act: () => Promise<Response>): Promise<Response> {
  try {
    return await act();
  } catch (error) {
    return problemOf(error);
  }
}

/** A row's number in a path. @throws ProblemError if it is none */
export function idOf(what: string, id: string | undefined): number {
  if (!/^\d{1,9}$/.test(id ?? '')) throw notFound(`${what} ${id}`);
  return Number(id);
}

/** Headers under which a browser keeps an answer as a file and never runs it. */
export const named = (name: string, mediaType: string): Record<string, string> => ({
  'content-type': mediaType,
  'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}`,
  'x-content-type-options': 'nosniff',
  'cache-control': 'private, no-store',
});

/** The text of a body, which is let go as soon as it is too long: nobody has us keep more, signed in or not. */
async function textOf(request: Request): Promise<string> {
  const tooLarge = (): ProblemError => new ProblemError(413, TOO_LARGE);
  if (Number(request.headers.get('content-length') ?? 0) > BODY_MAX) throw tooLarge();
  const reader = request.body?.getReader();
  if (!reader) return '';
  const chunks: Uint8Array[] = [];
  let bytes = 0;
  for (let next = await reader.read(); !next.done; next = await reader.read()) {
    bytes += next.value.length;
    if (bytes > BODY_MAX) {
      void reader.cancel().catch(() => {});
      throw tooLarge();
    }
    chunks.push(next.value);
  }
  return Buffer.concat(chunks).toString('utf8');
}

/** The JSON body of a request, checked. @throws ProblemError naming every field that is wrong */
export async function body<Schema extends z.ZodType>(schema: Schema, request: Request): Promise<z.infer<Schema>> {
  const text = await textOf(request);
  // Where nothing need be said, nothing need be sent.
  if (text.trim() === '' && schema.safeParse(null).success) return schema.parse(null);
  let raw: unknown;
  try {
    raw = JSON.parse(text, (name, value: unknown) => {
      if (name === '__proto__')
        throw new ProblemError(422, 'Some fields cannot be used', [
          { path: name, message: `there is no field “${name}”` },
        ]);
      if (typeof value === 'string' && value.includes('\0'))
        throw new ProblemError(422, 'A text holds no NUL character', [
          { path: name, message: `${name}: a text holds no NUL character` },
        ]);
      return value;
    });
  } catch (error) {
    if (error instanceof ProblemError) throw error;
    throw new ProblemError(400, 'The body is no JSON');
  }
  return schema.parse(raw);
}

/** Who asks, and from where, which the record says of whatever they do. */
export async function viewerOf(ctx: Context, request: Request): Promise<Viewer> {
  const viewer = await provenViewer(ctx, request);
  const { address } = fromOf(request);
  return address === '' ? viewer : { ...viewer, cameFrom: address };
}

async function provenViewer(ctx: Context, request: Request): Promise<Viewer> {
  const bearer = bearerOf(request);
  if (bearer) {
    const viewer = await viewerOfToken(ctx, bearer);
    if (viewer) return viewer;
    throw new ProblemError(401, 'The token is not valid; make one with ./just-thread token EMAIL');
  }
  const secret = sessionOf(request);
  const viewer = secret && (await viewerOfSession(ctx, secret));
  if (!viewer) throw new ProblemError(401, 'Sign in first');
  checkOrigin(request);
  return viewer;
}

/** What a request without a session bears to be known by. */
export const bearerOf = (request: Request): string | null =>
  /^Bearer\s+(\S+)$/i.exec(request.headers.get('authorization') ?? '')?.[1] ?? null;

export function sessionOf(request: Request): string | null {
  const wanted = cookieName(isSecure(request));
  for (const part of (request.headers.get('cookie') ?? '').split(';')) {
    const [name, value] = part.trim().split('=');
    if (name === wanted && value) return value;
  }
  return null;
}

/** What the server in front of the pages found out of the connection itself; it lets no client say these. */
const PEER = 'x-just-thread-peer';
const HOST = 'x-just-thread-host';
const SCHEME = 'x-just-thread-scheme';

/** Where a request comes from: the peer, or what a proxy that is trusted says of it. */
export const fromOf = (request: Request): From => ({
  address: request.headers.get(PEER) ?? '',
  agent: request.headers.get('user-agent') ?? '',
});

export const isSecure = (request: Pick<Request, 'headers'>): boolean => request.headers.get(SCHEME) === 'https';

/** A change that a browser makes must come from our own pages. */
export function checkOrigin(request: Request): void {
  if (request.method === 'GET' || request.method === 'HEAD') return;
  const origin = request.headers.get('origin');
  const host = request.headers.get(HOST);
  if (origin !== null && URL.canParse(origin) && new URL(origin).host === host) return;
  if (origin === null && request.headers.get('sec-fetch-site') === 'same-origin') return;
  throw new ProblemError(403, 'Changes are taken from the pages of this installation only');
}

function problemOf(error: unknown): Response {
  const problem = known(error);
  const { status, title, errors, kind } = problem;
  return Response.json(
    { type: kind === null ? 'about:blank' : `urn:just-thread:${kind}`, title, status, detail: problem.message, errors },
    {
      status,
      headers: {
        'content-type': 'application/problem+json',
        'cache-control': 'no-store',
        ...(problem.retryAfter === null ? {} : { 'retry-after': String(problem.retryAfter) }),
      },
    },
  );
}

/** After so long a busy server, or one whose database comes back, is worth asking again. */
const RETRY_SECONDS = 5;
/** PostgreSQL: a number out of range, a character that is none (numeric_value_out_of_range, character_not_in_repertoire, untranslatable_character). */
const UNFIT = new Set(['22003', '22021', '22P05']);

function known(error: unknown): ProblemError {
  if (error instanceof ProblemError) return error;
  if (error instanceof ZodError) {
    return new ProblemError(
      422,
      'Some fields cannot be used',
      error.issues.map((i) => ({ path: i.path.join('.'), message: `${i.path.join('.') || 'body'}: ${i.message}` })),
    );
  }
  const { code } = error as { code?: string };
  if (error instanceof NoTurn) {
    return new ProblemError(
      503,
      'Many heavy questions are being answered; try again in a moment, or ask a narrower one',
      [],
      null,
      RETRY_SECONDS,
    );
  }
  if (tookTooLong(error)) {
    return new ProblemError(
      503,
      'This question takes too long to be answered at once',
      [{ path: 'from', message: 'choose a shorter window, fewer accounts, or a dimension member' }],
      null,
      RETRY_SECONDS,
    );
  }
  if (code === 'ENOSPC' || code === '53100')
    return new ProblemError(507, 'The disk of the server is full; nothing was kept. Make room and send it again');
  if (error instanceof StoreAway)
    return new ProblemError(503, 'The store of files does not answer; try again in a moment', [], null, RETRY_SECONDS);
  if (connectionFault(error))
    return new ProblemError(503, 'The database does not answer; try again in a moment', [], null, RETRY_SECONDS);
  if (UNFIT.has(code ?? ''))
    return new ProblemError(
      422,
      'A value cannot be kept like this: it is too large, or holds a character that no text has',
    );
  logged().error({ error: (error as Error).stack ?? String(error), request: whoAsks()?.id }, 'fault');
  return new ProblemError(500, 'Something went wrong here; it is written in the log');
}
