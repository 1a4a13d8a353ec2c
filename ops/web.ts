import { randomBytes, randomUUID } from 'node:crypto';
import { setMaxListeners } from 'node:events';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { Socket } from 'node:net';
import next from 'next';
import { context } from '@/cases/asking/context';
import { writeLooks } from '@/cases/asking/looked';
import { saysItStops } from '@/cases/upkeep/health';
import { BODY_MAX, TOO_LARGE } from '@/contracts/bodies/all';
import { methodsOf } from '@/contracts/openapi';
import { ROUTES } from '@/contracts/routes';
import { type Asking, answering } from '@/store/asking';
import { openLog } from '@/store/log';
import { metrics } from '@/store/metrics';
import { peerOf, trustedProxies } from './peer';

/**
 * The web server: what is between the network and the pages. It says where a request comes from, limits what is
 * taken, gives every page its policy, writes down what was answered, stops what nobody waits for any more, and lets what
 * is under way come to its end before it goes.
 */

/** What is under way when the server is asked to stop has so long to end. */
const DRAIN_MS = 30_000;
const HEADERS_MS = 15_000;
/** A client that sends nothing for so long, in the middle of a request, is let go. */
const SILENT_MS = 30_000;
/** A file of 20 GB over a slow line. */
const REQUEST_MS = 4 * 3_600_000;
const CONNECTIONS_MAX = 2_000;
/** Connections from one address; a proxy that is trusted has no such limit. */
const CONNECTIONS_EACH = 256;
const UPLOADS = /^\/api\/v1\/(files|loads|attachments)$/;
/** Longer than a route may take to be loaded, before anybody asks it. */
const WARM_MS = 10_000;
/** So long is what is left of a refused body still taken, so that its sender reads the answer. */
const LINGER_MS = 1_000;
const METHODS = new Set(['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE', 'OPTIONS']);

const log = openLog('web');
const trusted = trustedProxies(process.env.TRUSTED_PROXIES);
const [hostname = '127.0.0.1', port = '4310'] = process.argv.slice(2);

const app = next({ dev: false, dir: process.cwd(), hostname, port: Number(port) });
await app.prepare();
const handle = app.getRequestHandler();

let stopping = false;
const underWay = new Set<ServerResponse>();
const connections = new Map<string, number>();
const receiving = new WeakMap<Socket, IncomingMessage>();

const server = createServer(
  { headersTimeout: HEADERS_MS, requestTimeout: REQUEST_MS, keepAliveTimeout: 65_000 },
  (request, response) => {
    front(request, response).catch((error: Error) => {
      log.error({ error: error.stack }, 'fault');
      if (!response.headersSent) problem(response, 500, 'Something went wrong here; it is written in the log');
      else response.destroy();
    });
  },
);
server.maxConnections = CONNECTIONS_MAX;
server.on('connection', (socket: Socket) => {
  const from = socket.remoteAddress ?? '';
  const many = (connections.get(from) ?? 0) + 1;
  if (many > CONNECTIONS_EACH && trusted.length === 0 && !isLoopback(from)) return void socket.destroy();
  connections.set(from, many);
  socket.on('close', () => {
    const left = (connections.get(from) ?? 1) - 1;
    if (left === 0) connections.delete(from);
    else connections.set(from, left);
  });
});
server.on('timeout', (socket: Socket) => {
  // Who has said all and waits for the answer is not silent; who has it, and asks nothing more, is.
  if (receiving.get(socket)?.complete !== true) socket.destroy();
});
server.on('clientError', (_error, socket) => {
  if (socket.writable) socket.end('HTTP/1.1 400 Bad Request\r\nconnection: close\r\n\r\n');
});

const isLoopback = (address: string): boolean =>
  address === '::1' || address.startsWith('127.') || address.startsWith('::ffff:127.');

async function front(request: IncomingMessage, response: ServerResponse): Promise<void> {
  const started = performance.now();
  const id = randomUUID();
  const { address, scheme, host } = peerOf(
    request.socket.remoteAddress ?? '',
    request.headers,
    'encrypted' in request.socket,
    trusted,
  );
  const path = (request.url ?? '/').split('?')[0] as string;
  const isApi = path === '/api' || path.startsWith('/api/');
  say(request, { 'x-just-thread-peer': address, 'x-just-thread-host': host, 'x-just-thread-scheme': scheme });
  response.setHeader('x-request-id', id);
  if (scheme === 'https') response.setHeader('strict-transport-security', 'max-age=31536000; includeSubDomains');
  if (stopping) response.setHeader('connection', 'close');

  const gone = new AbortController();
  // One question of a screen is many of the store's, and each listens.
  setMaxListeners(0, gone.signal);
  const locale = localeOf(request.headers['accept-language']);
  const asking: Asking = { id, signal: gone.signal, person: null, ...(locale ? { locale } : {}) };
  underWay.add(response);
  metrics().underWay.set(underWay.size);
  response.on('close', () => {
    underWay.delete(response);
    if (!response.writableFinished) gone.abort();
    const ms = Math.round(performance.now() - started);
    const of = isApi ? 'interface' : 'page';
    metrics().underWay.set(underWay.size);
    metrics().answers.inc({ of, status: `${Math.floor(response.statusCode / 100)}xx` });
    metrics().seconds.observe({ of }, ms / 1_000);
    if (isApi || response.statusCode >= 400) {
      log.info({
        request: id,
        method: request.method,
        path,
        status: response.statusCode,
        ms,
        peer: address,
        person: asking.person,
        whole: response.writableFinished,
      });
    }
  });
  watchSilence(request, response);

  const refusal = refused(request, path);
  if (refusal) {
    if (refusal.allow) response.setHeader('allow', refusal.allow.join(', '));
    problem(response, refusal.status, refusal.title);
    return letGo(request, response);
  }
  if (isApi) {
    response.setHeader('content-security-policy', "default-src 'none'; frame-ancestors 'none'");
    asFile(response);
  } else if (!path.startsWith('/embed/')) {
    const policy = policyWith(randomBytes(16).toString('base64'));
    // The pages find the nonce for their own scripts in the request, the browser in the answer.
    say(request, { 'content-security-policy': policy });
    response.setHeader('content-security-policy', policy);
  }
  await answering(asking, () => handle(request, response));
  if (!request.complete) letGo(request, response);
}

/** Opened in a browser, an answer is a file; what has a name of its own, or is to be looked at in place, says so itself. */
function asFile(response: ServerResponse): void {
  const { writeHead } = response;
  // A header that is there already is not replaced by what a route says: it is set last, where none was.
  response.writeHead = ((...said: Parameters<typeof writeHead>) => {
    if (!response.hasHeader('content-disposition'))
      response.setHeader('content-disposition', 'attachment; filename="answer.json"');
    return writeHead.apply(response, said);
  }) as typeof writeHead;
}

/** What a browser puts first among the languages that it takes; null where that is none. */
function localeOf(header: string | undefined): string | null {
  try {
    return Intl.getCanonicalLocales(header?.split(/[,;]/)[0]?.trim() || [])[0] ?? null;
  } catch {
    return null;
  }
}

interface Refusal {
  status: number;
  title: string;
  allow?: string[];
}

/** What is refused before anything of it is looked at. */
function refused(request: IncomingMessage, path: string): Refusal | null {
  const method = request.method ?? '';
  if (!METHODS.has(method)) return { status: 405, title: `There is no ${method} here` };
  let plain: string;
  try {
    plain = decodeURIComponent(path);
  } catch {
    return {
      status: 400,
      title: 'The address is not written as addresses are: a % stands before two digits of 0 to 9 and A to F',
    };
  }
  if (plain.includes('\0')) return { status: 422, title: 'An address holds no NUL character' };
  if (path === '/api' || path.startsWith('/api/')) {
    const allow = methodsOf(path);
    if (allow === null) return { status: 404, title: `${plain} is not there, or outside what you may see` };
    // The pages keep parameters in a plain object, where this name would be lost without a word.
    if (new URLSearchParams(request.url?.split('?')[1] ?? '').has('__proto__'))
      return { status: 422, title: 'There is no parameter “__proto__”' };
    if (!allow.includes(method === 'HEAD' ? 'GET' : method) && method !== 'OPTIONS')
      return { status: 405, title: `This route has no ${method}`, allow };
  }
  if (!UPLOADS.test(path) && Number(request.headers['content-length'] ?? 0) > BODY_MAX)
    return { status: 413, title: TOO_LARGE };
  return null;
}

/** Says things to the pages that no client may say: whatever came under these names is gone. */
function say(request: IncomingMessage, words: Record<string, string>): void {
  for (const name of [...Object.keys(words), ...NOT_OURS]) drop(request, name);
  for (const [name, value] of Object.entries(words)) {
    request.headers[name] = value;
    request.rawHeaders.push(name, value);
  }
}

/** No page has actions, and nothing is asked on behalf of another. */
const NOT_OURS = [
  'next-action',
  'x-middleware-subrequest',
  'x-forwarded-for',
  'x-forwarded-host',
  'x-forwarded-proto',
  'x-forwarded-port',
  'forwarded',
];

function drop(request: IncomingMessage, name: string): void {
  delete request.headers[name];
  const find = (): number => request.rawHeaders.findIndex((raw, i) => i % 2 === 0 && raw.toLowerCase() === name);
  for (let at = find(); at >= 0; at = find()) request.rawHeaders.splice(at, 2);
}

/** Scripts run only with the nonce of this very page, and what they bring in; nothing that is in a page by itself. */
const policyWith = (nonce: string): string =>
  [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'`,
    // Papers are read by a worker of our own.
    "worker-src 'self'",
    // Positions and widths of rows are styles of their elements.
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data:",
    "font-src 'self'",
    "connect-src 'self'",
    "frame-src 'self'",
    "object-src 'none'",
    "frame-ancestors 'none'",
    "base-uri 'none'",
    "form-action 'self'",
  ].join('; ');

function problem(response: ServerResponse, status: number, title: string): void {
  response.writeHead(status, {
    'content-type': 'application/problem+json',
    'cache-control': 'no-store',
    'x-content-type-options': 'nosniff',
  });
  response.end(JSON.stringify({ type: 'about:blank', title, status, detail: title, errors: [] }));
}

/** A client that stops sending in the middle of its request holds nothing for long. */
function watchSilence(request: IncomingMessage, response: ServerResponse): void {
  const { socket } = request;
  receiving.set(socket, request);
  socket.setTimeout(SILENT_MS);
  response.once('close', () => {
    if (receiving.get(socket) === request) receiving.delete(socket);
  });
}

/** What is left of a body that nobody reads is thrown away for a moment, and its connection closed if more is to come. */
function letGo(request: IncomingMessage, response: ServerResponse): void {
  if (request.complete) return;
  // It may be closed already.
  const socket = request.socket as Socket | null;
  request.resume();
  const close = (): void =>
    void setTimeout(() => {
      if (!request.complete) socket?.destroy();
    }, LINGER_MS).unref();
  if (response.writableFinished) close();
  else response.once('finish', close);
}

/** No new work; what is under way comes to its end, within its time. */
function stop(): void {
  if (stopping) return;
  stopping = true;
  saysItStops();
  log.info({ underWay: underWay.size }, 'stopping');
  for (const response of underWay) if (!response.headersSent) response.setHeader('connection', 'close');
  server.close(() => void end());
  // A connection that is kept open and has nothing under way holds nobody up.
  setInterval(() => server.closeIdleConnections(), 100).unref();
  setTimeout(() => void end(), DRAIN_MS).unref();
}

/** What was looked at last is written down before the end. */
async function end(): Promise<void> {
  const ctx = context();
  await Promise.race([writeLooks(ctx), new Promise((resolve) => setTimeout(resolve, 2_000))]).catch(() => {});
  process.exit(0);
}
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
// Whoever started this has gone: nothing would stop it any more.
process.on('disconnect', stop);

server.listen(Number(port), hostname, () => void ready());

/** Every route is asked once, by nobody, before anybody is: what it needs is loaded then, and not while others wait. */
async function ready(): Promise<void> {
  const from = performance.now();
  for (const { method, path } of ROUTES) {
    if (method !== 'get') continue;
    // One that does not answer keeps nobody from the others.
    const signal = AbortSignal.timeout(WARM_MS);
    const asked = await fetch(`http://${hostname}:${port}/api/v1${path.replaceAll(/\{\w+\}/g, '1')}`, {
      signal,
      // What leads elsewhere is not followed there.
      redirect: 'manual',
    })
      .then((answer) => answer.arrayBuffer())
      .catch(() => null);
    if (asked === null) log.warn({ path }, 'gave no answer before the start');
  }
  log.info({ hostname, port: Number(port), ms: Math.round(performance.now() - from) }, 'listening');
  process.send?.('listening');
}
