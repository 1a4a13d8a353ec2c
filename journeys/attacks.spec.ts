import { mkdtempSync, readdirSync, readFileSync, readlinkSync, rmSync } from 'node:fs';
import { Agent, request as requestHttp } from 'node:http';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { ROUTES } from '@/contracts/routes';
import { Random } from '@/demo/random';
import { HOSTILE, makeHostile } from '@/exchange/testing/hostile';
import { appUrl, signIn } from './app';

// What an attack found in the running product, tried again on the real server (docs/security.md).

const PASSWORD = 'harrowick-quay';

async function session(who: string, more: Record<string, string> = {}, password = PASSWORD): Promise<Response> {
  const body = JSON.stringify({ email: `${who}@kestrel.example`, password });
  return fetch(`${appUrl()}/api/v1/session`, {
    method: 'POST',
    body,
    headers: { origin: appUrl(), 'content-type': 'application/json', ...more },
  });
}

async function cookieOf(who: string): Promise<string> {
  const cookie = (await session(who)).headers.get('set-cookie') ?? '';
  expect(cookie).toMatch(/HttpOnly; SameSite=Lax/);
  return cookie.split(';')[0] as string;
}

const problem = async (answer: Response) => ({
  status: answer.status,
  type: answer.headers.get('content-type'),
  title: ((await answer.json()) as { title: string }).title,
});

/** The memory of the web server, by the port that it listens on. */
function memoryMb(): number {
  const port = Number(new URL(appUrl()).port).toString(16).toUpperCase().padStart(4, '0');
  const inode = readFileSync('/proc/net/tcp', 'utf8')
    .split('\n')
    .map((line) => line.trim().split(/\s+/))
    .find((cells) => cells[1]?.endsWith(`:${port}`) && cells[3] === '0A')?.[9];
  for (const pid of readdirSync('/proc').filter((name) => /^\d+$/.test(name))) {
    try {
      if (!readdirSync(`/proc/${pid}/fd`).some((fd) => readlinkSync(`/proc/${pid}/fd/${fd}`) === `socket:[${inode}]`))
        continue;
      return (Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]) * 4_096) / 1024 ** 2;
    } catch {
      // A process that has gone meanwhile, or that is another's.
    }
  }
  throw new Error('the web server is not found');
}

test('a pattern of forty stars is answered, and the server with it', async () => {
  const cookie = await cookieOf('col');
  const answer = await fetch(`${appUrl()}/api/v1/trial-balance?entity=KSF&accounts=${'*'.repeat(40)}zz`, {
    headers: { cookie },
  });
  expect(answer.status).toBe(200);
  expect((await fetch(`${appUrl()}/api/v1/health`)).status).toBe(200);
});

test('whatever is no route, or is sent to one, is answered as a problem', async () => {
  const cookie = await cookieOf('ines');
  const ask = (path: string, init: RequestInit = {}) =>
    fetch(`${appUrl()}${path}`, { ...init, headers: { cookie, origin: appUrl(), ...init.headers } });
  for (const path of [
    '/api',
    '/api/v1',
    '/api/v1/nothing',
    '/api/v1/notes/1/2',
    '/api/v2/health',
    '/api/v1/constructor',
  ])
    for (const method of ['GET', 'POST', 'PATCH'])
      expect([path, method, await problem(await ask(path, { method, headers: { 'next-action': 'x' } }))]).toEqual([
        path,
        method,
        { status: 404, type: 'application/problem+json', title: expect.stringMatching(/is not there/) },
      ]);
  expect(await problem(await ask('/api/v1/health', { method: 'DELETE' }))).toMatchObject({
    status: 405,
    type: 'application/problem+json',
  });
  for (const path of [
    '/api/v1/notes?entity=%00',
    '/api/v1/entries/x%00',
    '/api/v1/documents/x%00',
    '/api/v1/trial-balance?entity=KSF&text=%00',
    '/api/v1/export?text=%00',
  ])
    expect([path, (await problem(await ask(path))).status]).toEqual([path, 422]);
  for (const [path, status] of [
    ['/api/v1/pins/99999999999999999999', 404],
    ['/api/v1/loads?after=99999999999999', 422],
    ['/api/v1/documents/%25', 404],
    ['/api/v1/documents/%zz', 400],
    ['/api/v1/schemas/constructor', 404],
    ['/api/v1/schemas/__proto__', 404],
    ['/api/v1/trial-balance?entity=KSF&dim.__proto__=x', 422],
    ['/api/v1/trial-balance?entity=KSF&__proto__=x', 422],
    ['/api/v1/loads/compare?from=0&to=9007199254740991', 422],
    ['/api/v1/entries/e99999999999999999999', 404],
    ['/api/v1/lines?entity=KSF&at=9007199254740991', 200],
  ] as const)
    expect([path, (await ask(path)).status]).toEqual([path, status]);
  const bad = await ask('/api/v1/notes', {
    method: 'POST',
    body: '{"__proto__":{"x":1},"subject":"x"}',
    headers: { 'content-type': 'application/json' },
  });
  expect(bad.status).toBe(422);
});

const FILLED = (path: string): string => `/api/v1${path.replaceAll(/\{\w+\}/g, '1')}`;
/** Routes that answer whoever asks: whether it is there, what it is, and coming in, which the first owner does by a code. */
const OPEN = [
  'get /health',
  'get /openapi.json',
  'post /session',
  'delete /session',
  // To the sign-in of the organisation and back: nobody is signed in yet.
  'get /session/provider/begin',
  'get /session/provider/return',
  'post /password',
  'post /first-owner',
  // Whether a process takes requests; and what it tells of itself, to its own machine, which this is.
  'get /ready',
  'get /metrics',
];

test('no route answers a stranger, and none takes a change from a foreign page', async () => {
  const cookie = await cookieOf('ines');
  for (const { method, path } of ROUTES) {
    const ask = (headers: Record<string, string>) =>
      fetch(`${appUrl()}${FILLED(path)}`, {
        method: method.toUpperCase(),
        headers,
        ...(method === 'get' ? {} : { body: '{}' }),
      });
    const status = async (headers: Record<string, string>): Promise<number> => (await ask(headers)).status;
    if (!OPEN.includes(`${method} ${path}`)) {
      const strangers: Record<string, string>[] = [
        {},
        { authorization: 'Bearer jt_nothing' },
        { authorization: 'Basic eDp5' },
        { cookie: 'just_thread_session=nothing' },
      ];
      for (const headers of strangers)
        expect([method, path, headers, await status({ origin: appUrl(), ...headers })]).toEqual([
          method,
          path,
          headers,
          401,
        ]);
    }
    if (method === 'get') continue;
    for (const from of [
      { origin: 'http://evil.example' },
      { origin: 'null' },
      { origin: `${appUrl()}.evil.example` },
      { 'sec-fetch-site': 'cross-site' },
      {},
    ])
      for (const type of ['application/json', 'text/plain'])
        expect([
          method,
          path,
          from,
          await status({ cookie, 'content-type': type, ...(from as Record<string, string>) }),
        ]).toEqual([method, path, from, 403]);
  }
  const headers = (await fetch(`${appUrl()}/api/v1/session`, { headers: { cookie } })).headers;
  expect(headers.get('x-content-type-options')).toBe('nosniff');
  expect(headers.get('cache-control')).toBe('private, no-store');
  expect(headers.get('referrer-policy')).toBe('same-origin');
  expect(headers.get('x-frame-options')).toBe('DENY');
  expect(headers.get('content-disposition')).toMatch(/^attachment/);
  for (const digest of ['..%2f..%2f..%2fetc%2fpasswd', '%2e%2e', 'a'.repeat(64)])
    expect((await fetch(`${appUrl()}/api/v1/attachments/${digest}`, { headers: { cookie } })).status).toBe(404);
});

test('whatever stands in a parameter, the server has an answer and never a fault', async () => {
  test.setTimeout(240_000);
  const cookie = await cookieOf('ines');
  const random = new Random(41);
  const values = [
    "'",
    '"',
    "' or 1=1--",
    '?',
    '$1',
    '%',
    '\\',
    '%%',
    '_',
    '-1',
    '0',
    '1e999',
    '99999999999999999999',
    '2026-13-45',
    '2027.99',
    '-',
    '..',
    '~',
    '~not:',
    '~is:',
    '~none',
    '*',
    '?*?',
    'a'.repeat(1_500),
    '\u202e',
    '😀',
    '{}',
    '[]',
    'null',
    'true',
    '<script>',
    '../..',
    ' ',
    '\t',
    'x|y',
    'dim:',
    'dim:nothing',
    'dim:vessel/NOTHING',
    'KSF',
    '4000 to 1',
    'type x',
  ];
  const pick = <T>(from: readonly T[]): T => from[random.whole(0, from.length - 1)] as T;
  const asked = ROUTES.filter((r) => r.method === 'get' && r.query);
  const faults: string[] = [];
  for (let i = 0; i < 500; i++) {
    const route = pick(asked);
    const names = [...Object.keys(route.query ?? {}), 'dim.vessel', 'dim.x', 'nothing'];
    const params = new URLSearchParams(random.whole(0, 3) === 0 ? {} : { entity: 'KSF' });
    if (route.path === '/sheets') params.append('by', pick(['account', 'period', 'dim:vessel', 'day', 'document']));
    for (let n = random.whole(1, 3); n > 0; n--) params.append(pick(names), pick(values));
    const answer = await fetch(`${appUrl()}${FILLED(route.path)}?${params}`, { headers: { cookie } });
    await answer.arrayBuffer();
    if (answer.status >= 500 && answer.status !== 503) faults.push(`${answer.status} ${route.path}?${params}`);
  }
  expect(faults).toEqual([]);
});

test('a page runs no script but its own, and nothing leads away after signing in', async ({ page }) => {
  const answer = await fetch(`${appUrl()}/sign-in`, { headers: { 'x-forwarded-proto': 'https' } });
  const policy = answer.headers.get('content-security-policy') ?? '';
  expect(policy).toMatch(/script-src 'self' 'nonce-[\w+/=]{20,}' 'strict-dynamic'/);
  expect(policy).not.toMatch(/script-src[^;]*unsafe/);
  // Whoever says that it is https is not believed without a proxy that is trusted.
  expect(answer.headers.get('strict-transport-security')).toBeNull();
  expect((await fetch(`${appUrl()}/sign-in`)).headers.get('content-security-policy')).not.toBe(policy);
  const faults: string[] = [];
  page.on('console', (message) => message.type() === 'error' && faults.push(message.text()));
  // Nor is a page that is none made beforehand, with scripts that its policy refuses.
  expect((await page.goto(`${appUrl()}/no-such-page`))?.status()).toBe(404);
  await expect(page.getByRole('heading', { name: 'There is no such page' })).toBeVisible();
  expect(faults.filter((fault) => /Content Security Policy/.test(fault))).toEqual([]);
  await page.goto(`${appUrl()}/sign-in?to=%2F%5Cevil.example%2Fx`);
  // A script that somebody got into the page does not run.
  await page.evaluate(() => {
    const script = document.createElement('div');
    script.innerHTML = '<img src="x" onerror="window.hit = true">';
    document.body.append(script);
  });
  await page.getByLabel('E-mail').fill('ines@kestrel.example');
  await page.getByLabel('Password').fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('heading', { name: 'Desk' })).toBeVisible();
  expect(new URL(page.url()).origin).toBe(appUrl());
  expect(await page.evaluate(() => (window as unknown as { hit?: boolean }).hit)).toBeUndefined();
  expect(faults.filter((f) => !/onerror|inline event|404|img/.test(f))).toEqual([]);
});

test('strangers lock nobody out, and are not believed about where they come from', async () => {
  for (let i = 0; i < 45; i++) expect((await session(`nobody${i}`, {}, 'wrong')).status).toBe(401);
  expect((await session('tomas')).status).toBe(200);
  const spoofed: number[] = [];
  for (let i = 0; i < 8; i++)
    spoofed.push(
      (await session('invented', { 'x-forwarded-for': `9.9.9.${i}`, 'x-just-thread-peer': `8.8.8.${i}` }, 'wrong'))
        .status,
    );
  expect(spoofed).toEqual([401, 401, 401, 401, 401, 429, 429, 429]);
  const refused = await session('invented', {}, 'wrong');
  expect(Number(refused.headers.get('retry-after'))).toBeGreaterThan(0);
  // A foreign page that sends a host along is foreign all the same.
  expect(
    (
      await session('tomas', {
        origin: 'http://evil.example',
        'x-forwarded-host': 'evil.example',
        'x-just-thread-host': 'evil.example',
      })
    ).status,
  ).toBe(403);
});

test('a body that is too long is refused before it is taken, signed in or not, and a silent client is let go', async () => {
  const before = memoryMb();
  // A busy machine may lose the answer with the connection that is cut after it: then it is asked again.
  let { status, sent } = await sendForEver('/api/v1/session');
  for (let again = 0; status === 0 && again < 5; again++) ({ status, sent } = await sendForEver('/api/v1/session'));
  expect(status).toBe(413);
  expect(sent).toBeLessThan(64 * 1024 ** 2);
  const told = await fetch(`${appUrl()}/api/v1/session`, {
    method: 'POST',
    body: 'x'.repeat(300_000),
    headers: { origin: appUrl() },
  });
  expect(told.status).toBe(413);
  expect(memoryMb() - before).toBeLessThan(100);
  // Whoever begins a request and does not go on with it.
  const { hostname, port } = new URL(appUrl());
  const socket = connect(Number(port), hostname);
  socket.write('POST /api/v1/session HTTP/1.1\r\nhost: x\r\ncontent-length: 100\r\n\r\n{');
  await new Promise<void>((resolve) => socket.resume().once('close', () => resolve()));
});

test('a file that stopped the installation once is refused, and everybody else goes on', async ({ page }) => {
  const folder = mkdtempSync(join(tmpdir(), 'just-thread-attack-'));
  try {
    await signIn(page, 'tomas');
    const cookie = await cookieOf('tomas');
    for (const hostile of HOSTILE.filter((h) =>
      ['long-cells.xlsx.zip', 'far-column.xlsx', 'nested.json'].includes(h.name),
    )) {
      const path = await makeHostile(folder, hostile, hostile.name.startsWith('long') ? 0.3 : 1);
      const form = new FormData();
      form.append('file', new Blob([new Uint8Array(readFileSync(path))]), hostile.name);
      const answer = await fetch(`${appUrl()}/api/v1/files`, {
        method: 'POST',
        body: form,
        headers: { cookie, origin: appUrl() },
      });
      expect([hostile.name, answer.status, await answer.json()]).toEqual([
        hostile.name,
        201,
        expect.objectContaining({ unreadable: expect.stringMatching(hostile.says) }),
      ]);
      // As a load it is on record with the reason.
      const load = new FormData();
      load.append('entity', 'KSF');
      load.append('file', new Blob([new Uint8Array(readFileSync(path))]), hostile.name);
      const { id } = (await (
        await fetch(`${appUrl()}/api/v1/loads`, { method: 'POST', body: load, headers: { cookie, origin: appUrl() } })
      ).json()) as {
        id: number;
      };
      await expect
        .poll(
          async () =>
            (
              (await (await fetch(`${appUrl()}/api/v1/loads/${id}`, { headers: { cookie } })).json()) as {
                status: string;
              }
            ).status,
          {
            timeout: 60_000,
          },
        )
        .toBe('refused');
    }
    await page.goto(`${appUrl()}/loads/work`);
    await expect(page.getByRole('table', { name: 'Work' }).getByText('✗ refused').first()).toBeVisible();
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});

/** Sends a body in pieces, with no length, until it is refused; the status is 0 where the connection was cut first. */
function sendForEver(path: string): Promise<{ status: number; sent: number }> {
  return new Promise((resolve, reject) => {
    let sent = 0;
    const { hostname, port } = new URL(appUrl());
    const asked = requestHttp(
      {
        hostname,
        port,
        path,
        method: 'POST',
        agent: new Agent(),
        headers: { origin: appUrl(), 'transfer-encoding': 'chunked' },
      },
      (answer) => {
        answer.resume();
        resolve({ status: answer.statusCode ?? 0, sent });
        asked.destroy();
      },
    );
    asked.on('error', (error) => (sent > 300 * 1024 ** 2 ? reject(error) : resolve({ status: 0, sent })));
    const piece = Buffer.alloc(64 * 1024, 'x');
    const more = (): void => {
      while (!asked.destroyed && sent < 300 * 1024 ** 2) {
        sent += piece.length;
        if (!asked.write(piece)) return void asked.once('drain', more);
      }
    };
    more();
  });
}
