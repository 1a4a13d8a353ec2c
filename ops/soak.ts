import { type ChildProcess, spawnSync } from 'node:child_process';
import { createReadStream, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { request as requestHttp } from 'node:http';
import { connect as connectTcp, type Socket } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { addEntity } from '@/cases/charts/entities';
import { runJobsHere } from '@/cases/jobs/runJob';
import { loadFile } from '@/cases/loads/loading/runLoads';
import { addPerson } from '@/cases/people/people';
import { ownerOf } from '@/cases/people/signIn';
import { makeToken } from '@/cases/people/tokens';
import { check } from '@/cases/upkeep/check';
import { writeDemoFiles } from '@/demo/files';
import { ENTITIES } from '@/demo/seed';
import { HOSTILE, makeHostile } from '@/exchange/testing/hostile';
import { connectForWork, rowsOf } from '@/store/db';
import { build } from './build';
import { type App, type Installation, openInstallation, startApp, temporaryHome } from './installation';
import { freePort } from './postgres';
import { leavesOpened } from './soakLeaves';

/**
 * The long tests: what is promised about attack, faults and crowds, measured on the real processes at full size. Each
 * row says what was asked, what was found, and whether that is within what is promised.
 */
const LINES_SCALE = 30;
const HEALTH_MAX_MS = 250;
const REFUSED_MAX_MS = 10_000;
const WEB_GROWTH_MAX_MB = 100;
const LIGHT_MAX_MS = 500;
const BACK_MAX_MS = 30_000;

interface Soak {
  app: App;
  installation: Installation;
  token: string;
  say(text: string): void;
  row(ok: boolean, what: string, found: string): void;
}

/** @param only the name of one of its parts; all of them if absent */
export async function soak(say: (text: string) => void, only?: string): Promise<number> {
  let passed = 0;
  let failed = 0;
  const row = (ok: boolean, what: string, found: string): void => {
    if (ok) passed += 1;
    else failed += 1;
    say(`${ok ? '✓' : '✗'} ${what.padEnd(62)} ${found}`);
  };
  await build(say);
  const home = temporaryHome('soak');
  const env = { ...process.env, JUST_THREAD_HOME: home, JUST_THREAD_TODAY: '2026-10-05' };
  delete (env as NodeJS.ProcessEnv).DATABASE_URL;
  const installation = await openInstallation(env, true, say);
  installation.server?.watch((text) => say(`  ${text}`));
  let app: App | null = null;
  try {
    const lines = await fill(installation, home, say);
    app = await startApp(installation.env, await freePort(), { say: (text) => say(`  ${text}`) });
    const token = await makeToken(installation.ctx, 'soak@soak.example');
    const given: Soak = { app, installation, token, say, row };
    say(`\n${lines.toLocaleString('en')} lines; the web server has ${Math.round(memoryMb(app))} MB\n`);
    await warmed(given);
    for (const part of PARTS) if (only === undefined || part.name === only) await part(given);
    await runJobsHere(installation.ctx);
    for await (const { what, ok, detail, ms } of check(installation.ctx))
      row(ok, `check: ${what}`, `${detail} (${(ms / 1000).toFixed(1)} s)`);
  } finally {
    await app?.stop();
    await installation.destroy();
  }
  process.stdout.write(`${passed} passed, ${failed} failed\n`);
  return failed === 0 ? 0 : 1;
}

const PARTS = [leaves, hostileFiles, longBodies, silentClients, fullDisk, crowd, leavers, drained, killed];

/** What a server does for the first time takes longer, whatever it is: it is told apart. */
async function warmed(soak: Soak): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'just-thread-soak-'));
  const path = join(folder, 'small.csv');
  writeFileSync(path, 'code,name,type\n1,Cash,asset\n');
  const stop = watchHealth(soak);
  await (await sendFile(soak, '/files', path, 'small.csv', {})).json();
  await fetch(`${soak.app.url}/api/v1${LIGHT}`, { headers: authorised(soak) });
  const { worst } = await stop();
  soak.say(`The first file and the first question after a start: health ${worst} ms at most\n`);
  rmSync(folder, { recursive: true });
}

async function fill({ ctx }: Installation, home: string, say: (text: string) => void): Promise<number> {
  say('Generating and loading a ledger …');
  await addPerson(ctx, null, {
    email: 'soak@soak.example',
    name: 'Soak',
    role: 'owner',
    password: 'rain on the slipway',
  });
  const owner = await ownerOf(ctx.work);
  await addPerson(ctx, owner, {
    email: 'light@soak.example',
    name: 'Light',
    role: 'preparer',
    password: 'rain on the slipway',
  });
  const files = await writeDemoFiles(home, LINES_SCALE);
  const calendar = { kind: 'monthly', start: '04', adjustmentPeriods: 1 } as const;
  for (const entity of ENTITIES)
    await addEntity(ctx, owner, { ...entity, calendar, yearEnd: 'derived', retainedEarnings: '3120' });
  await loadFile(ctx, owner, files.dimensions, { kind: 'dimensions', format: 'csv' });
  for (const { code } of ENTITIES)
    await loadFile(ctx, owner, files.chart, { kind: 'accounts', format: 'csv', entity: code });
  const load = await loadFile(ctx, owner, files.lines, { kind: 'lines', format: 'csv' });
  if (load.status !== 'loaded') throw new Error(load.message ?? 'the ledger of the soak was refused');
  await runJobsHere(ctx);
  return load.lines;
}

function memoryMb({ web }: App): number {
  return memoryOfMb(web.process());
}

const memoryOfMb = (child: ChildProcess | null): number =>
  (Number(readFileSync(`/proc/${child?.pid}/statm`, 'utf8').split(' ')[1]) * 4_096) / 1024 ** 2;

/** How long the server takes to say that it is there, again and again until it is stopped. */
function watchHealth({ app }: Soak) {
  let worst = 0;
  let missed = 0;
  let peakMb = memoryMb(app);
  let running = true;
  const from = peakMb;
  const watching = (async () => {
    while (running) {
      const started = performance.now();
      const ok = await fetch(`${app.url}/api/v1/health`).then(
        (r) => r.ok,
        () => false,
      );
      if (!ok) missed += 1;
      worst = Math.max(worst, performance.now() - started);
      peakMb = Math.max(peakMb, memoryMb(app));
      await new Promise((resolve) => setTimeout(resolve, 25));
    }
  })();
  return async () => {
    running = false;
    await watching;
    return { worst: Math.round(worst), missed, grownMb: Math.round(peakMb - from) };
  };
}

const authorised = ({ token }: Soak): Record<string, string> => ({ authorization: `Bearer ${token}` });

async function hostileFiles(soak: Soak): Promise<void> {
  soak.say('Files that mean harm: looked at, and sent as a load');
  const folder = mkdtempSync(join(tmpdir(), 'just-thread-soak-'));
  try {
    for (const hostile of HOSTILE) {
      const path = await makeHostile(folder, hostile);
      const stop = watchHealth(soak);
      const looking = performance.now();
      const looked = (await (await sendFile(soak, '/files', path, hostile.name, {})).json()) as {
        unreadable?: string | null;
      };
      const lookedMs = Math.round(performance.now() - looking);
      const loading = performance.now();
      const { id } = (await (await sendFile(soak, '/loads', path, hostile.name, { entity: 'KSF' })).json()) as {
        id: number;
      };
      const load = await loadDone(soak, id);
      const loadedMs = Math.round(performance.now() - loading);
      const { worst, missed, grownMb } = await stop();
      const refused = load.status === 'refused' && lookedMs < REFUSED_MAX_MS && loadedMs < REFUSED_MAX_MS;
      const calm = worst < HEALTH_MAX_MS && missed === 0 && grownMb < WEB_GROWTH_MAX_MB;
      const size = `${(statSync(path).size / 1024 ** 2).toFixed(1)} MB`;
      soak.row(
        refused && calm,
        `${hostile.name} (${size})`,
        `${lookedMs} and ${loadedMs} ms; health ${worst} ms at most; web +${grownMb} MB; ${(looked.unreadable ?? load.message ?? '').slice(0, 60)}`,
      );
      rmSync(path, { force: true });
      rmSync(`${path}.inner`, { force: true });
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Streams a file as a form, without holding it here. */
function sendFile(
  soak: Soak,
  path: string,
  file: string,
  name: string,
  fields: Record<string, string>,
): Promise<Response> {
  const boundary = 'soak-boundary';
  const body = async function* (): AsyncGenerator<Uint8Array> {
    for (const [key, value] of Object.entries(fields))
      yield Buffer.from(`--${boundary}\r\ncontent-disposition: form-data; name="${key}"\r\n\r\n${value}\r\n`);
    yield Buffer.from(`--${boundary}\r\ncontent-disposition: form-data; name="file"; filename="${name}"\r\n\r\n`);
    for await (const chunk of createReadStream(file)) yield chunk as Buffer;
    yield Buffer.from(`\r\n--${boundary}--\r\n`);
  };
  const headers = { ...authorised(soak), 'content-type': `multipart/form-data; boundary=${boundary}` };
  return fetch(`${soak.app.url}/api/v1${path}`, {
    method: 'POST',
    headers,
    body: body() as never,
    duplex: 'half',
  } as RequestInit);
}

async function loadDone(soak: Soak, id: number): Promise<{ status: string; message: string | null; lines: number }> {
  for (;;) {
    const answer = await fetch(`${soak.app.url}/api/v1/loads/${id}`, { headers: authorised(soak) }).catch(() => null);
    const load = answer?.ok
      ? ((await answer.json()) as { status: string; message: string | null; lines: number })
      : null;
    if (load && load.status !== 'reading') return load;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

async function longBodies(soak: Soak): Promise<void> {
  const stop = watchHealth(soak);
  const answers = await Promise.all(Array.from({ length: 10 }, () => sendForEver(soak, 300)));
  const { worst, grownMb } = await stop();
  const ok = answers.every((a) => a === 413) && grownMb < WEB_GROWTH_MAX_MB && worst < HEALTH_MAX_MS;
  soak.row(
    ok,
    'ten bodies of 300 MB at once, nobody signed in',
    `${[...new Set(answers)].join(', ')}; web +${grownMb} MB; health ${worst} ms at most`,
  );
}

/** Sends a body in pieces with no length, until it is refused. */
function sendForEver(soak: Soak, megabytes: number): Promise<number> {
  return new Promise((resolve) => {
    const { hostname, port } = new URL(soak.app.url);
    let sent = 0;
    const asked = requestHttp(
      {
        hostname,
        port,
        path: '/api/v1/session',
        method: 'POST',
        headers: { origin: soak.app.url, 'transfer-encoding': 'chunked' },
      },
      (answer) => {
        answer.resume();
        resolve(answer.statusCode ?? 0);
        asked.destroy();
      },
    );
    asked.on('error', () => resolve(0));
    const piece = Buffer.alloc(256 * 1024, 'x');
    const more = (): void => {
      while (!asked.destroyed && sent < megabytes * 1024 ** 2) {
        sent += piece.length;
        if (!asked.write(piece)) return void asked.once('drain', more);
      }
      asked.end();
    };
    more();
  });
}

async function silentClients(soak: Soak): Promise<void> {
  const { hostname, port } = new URL(soak.app.url);
  const sockets: Socket[] = [];
  let closed = 0;
  for (let i = 0; i < 200; i++) {
    const socket = connectTcp(Number(port), hostname);
    socket.on('error', () => {});
    socket.on('close', () => (closed += 1));
    socket.resume();
    socket.write(
      i % 2 === 0
        ? 'GET / HTTP/1.1\r\nhost: x\r\n'
        : 'POST /api/v1/session HTTP/1.1\r\nhost: x\r\ncontent-length: 9\r\n\r\n{',
    );
    sockets.push(socket);
  }
  const stop = watchHealth(soak);
  await new Promise((resolve) => setTimeout(resolve, 62_000));
  const { worst, missed } = await stop();
  soak.row(
    closed === 200 && missed === 0 && worst < HEALTH_MAX_MS,
    '200 clients that begin a request and say no more',
    `${closed} let go within a minute; health ${worst} ms at most`,
  );
  for (const socket of sockets) socket.destroy();
}

async function fullDisk(soak: Soak): Promise<void> {
  const files = soak.installation.ctx.files.folder;
  if (spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=3m', 'tmpfs', files]).status !== 0)
    return soak.say('  (a full disk needs a file system of its own, which this machine does not let us make)');
  try {
    const folder = mkdtempSync(join(tmpdir(), 'just-thread-soak-'));
    const path = join(folder, 'large.csv');
    spawnSync('truncate', ['-s', '11M', path]);
    const started = performance.now();
    const answer = await sendFile(soak, '/files', path, 'large.csv', {}).catch(() => null);
    soak.row(
      answer?.status === 507,
      'an upload of 11 MB to a disk of 3 MB',
      `${answer?.status ?? 'cut off'} after ${Math.round(performance.now() - started)} ms`,
    );
    rmSync(folder, { recursive: true });
  } finally {
    spawnSync('umount', [files]);
  }
}

const HEAVY = `/lines?entity=KSF&accounts=4*&from=2027.01&to=2027.06&sort=-amount&${Array.from({ length: 200 }, (_, i) => `description=*${'abcdefghij'[i % 10]}*${i}*x`).join('&')}`;
const LIGHT = '/totals?entity=KSF&accounts=6310&from=2027.01&to=2027.06';

async function crowd(soak: Soak): Promise<void> {
  const other = { authorization: `Bearer ${await makeToken(soak.installation.ctx, 'light@soak.example')}` };
  const light = async (): Promise<number> => {
    const started = performance.now();
    const answer = await fetch(`${soak.app.url}/api/v1${LIGHT}`, { headers: other });
    if (!answer.ok) throw new Error(`a light question was answered ${answer.status}`);
    await answer.arrayBuffer();
    return performance.now() - started;
  };
  await light();
  const alone = await light();
  let running = true;
  const heavy = Promise.all(
    Array.from({ length: 20 }, () =>
      fetch(`${soak.app.url}/api/v1${HEAVY}`, { headers: authorised(soak) }).then((r) =>
        r.arrayBuffer().then(() => r.status),
      ),
    ),
  ).then((statuses) => {
    running = false;
    return statuses;
  });
  const times: number[] = [];
  while (running) {
    times.push(await light());
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  times.sort((a, b) => a - b);
  const at = (share: number): number =>
    Math.round(times[Math.min(times.length - 1, Math.floor(times.length * share))] ?? 0);
  const statuses = new Map<number, number>();
  for (const status of await heavy) statuses.set(status, (statuses.get(status) ?? 0) + 1);
  const told = [...statuses].map(([status, many]) => `${many} × ${status}`).join(', ');
  soak.row(
    at(1) < LIGHT_MAX_MS,
    'a light question beside twenty of the heaviest',
    `${Math.round(alone)} ms alone; ${at(0.5)} median, ${at(0.95)} p95, ${at(1)} at most of ${times.length}; the heavy ones ${told}`,
  );
}

/** Whoever closes the connection has what was asked stopped in the database as well. */
async function leavers(soak: Soak): Promise<void> {
  const gone = new AbortController();
  const asked = Promise.allSettled(
    Array.from({ length: 10 }, () =>
      fetch(`${soak.app.url}/api/v1${HEAVY}`, { headers: authorised(soak), signal: gone.signal }),
    ),
  );
  // Only whoever owns the server sees what others ask.
  const admin = connectForWork(soak.installation.server?.url ?? '');
  const running = async (): Promise<number> =>
    (
      await rowsOf(
        admin,
        `select 1 from pg_stat_activity where application_name like 'just-thread heavy' and state = 'active'`,
      )
    ).length;
  await new Promise((resolve) => setTimeout(resolve, 1_500));
  const before = await running();
  gone.abort();
  await asked;
  const from = performance.now();
  while ((await running()) > 0 && performance.now() - from < 10_000)
    await new Promise((resolve) => setTimeout(resolve, 20));
  const ms = Math.round(performance.now() - from);
  await admin.destroy();
  soak.row(before > 0 && ms < 1_500, 'ten who close the connection', `${before} questions ran; none after ${ms} ms`);
}

/** What leaves, opened by other programs. */
function leaves(soak: Soak): Promise<void> {
  return leavesOpened({
    ...soak,
    async ask(path) {
      const answer = await fetch(`${soak.app.url}/api/v1${path}`, { headers: authorised(soak) });
      if (!answer.ok) throw new Error(`${path}: ${answer.status} ${await answer.text()}`);
      return Buffer.from(await answer.arrayBuffer());
    },
  });
}

/** What is under way when the server is asked to stop comes to its end. */
async function drained(soak: Soak): Promise<void> {
  const exported = fetch(`${soak.app.url}/api/v1/export?entity=KSF&format=csv&accounts=4110&from=2027.01&to=2027.06`, {
    headers: authorised(soak),
  });
  const answer = await exported;
  const reader = answer.body?.getReader();
  let bytes = (await reader?.read())?.value?.length ?? 0;
  const process_ = soak.app.web.process();
  const ended = new Promise((resolve) => process_?.once('exit', resolve));
  const from = performance.now();
  process_?.kill('SIGTERM');
  let whole = true;
  try {
    for (let next = await reader?.read(); next && !next.done; next = await reader?.read()) bytes += next.value.length;
  } catch {
    whole = false;
  }
  await ended;
  const took = performance.now() - from;
  const back = await untilServed(soak);
  soak.row(
    whole,
    'an export under way while the server is asked to stop',
    `${(bytes / 1024 ** 2).toFixed(1)} MB, ${whole ? 'whole' : 'broken off'}, the server ended after ${(took / 1000).toFixed(1)} s; served again after ${back} ms`,
  );
}

async function untilServed(soak: Soak): Promise<number> {
  const from = performance.now();
  for (;;) {
    const ok = await fetch(`${soak.app.url}/api/v1${LIGHT}`, { headers: authorised(soak) }).then(
      (r) => r.ok,
      () => false,
    );
    if (ok) return Math.round(performance.now() - from);
    if (performance.now() - from > 120_000) return -1;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

/** Each process killed with no time to say anything, while a load runs. */
async function killed(soak: Soak): Promise<void> {
  const postmaster = (): number =>
    Number(readFileSync(join(dataFolderOf(soak), 'postmaster.pid'), 'utf8').split('\n')[0]);
  const kills: [string, () => void][] = [
    ['the web server', () => soak.app.web.process()?.kill('SIGKILL')],
    ['the worker', () => soak.app.worker?.process()?.kill('SIGKILL')],
    ['PostgreSQL', () => process.kill(postmaster(), 'SIGKILL')],
  ];
  const folder = mkdtempSync(join(tmpdir(), 'just-thread-soak-'));
  for (const [n, [what, kill]] of kills.entries()) {
    const columns = ['entry', 'line', 'date', 'account', 'amount', 'description'];
    const rows = Array.from(
      { length: 30_000 },
      (_, i) => `K${n}-${i},1,2026-09-03,1512,1.00,x\nK${n}-${i},2,2026-09-03,1510,-1.00,x`,
    );
    const path = join(folder, `killed-${n}.csv`);
    writeFileSync(path, `${columns.join(',')}\n${rows.join('\n')}\n`);
    // Read row by row, since something is put into every row, so that there is time to kill whoever reads.
    const constants = { source: 'by hand' };
    const mapping = JSON.stringify({ columns: Object.fromEntries(columns.map((c) => [c, c])), constants });
    const { id } = (await (
      await sendFile(soak, '/loads', path, `killed-${n}.csv`, { entity: 'KSF', mapping })
    ).json()) as { id: number };
    await new Promise((resolve) => setTimeout(resolve, 1_200));
    const statuses = new Set<number>();
    let running = true;
    const asking = (async () => {
      while (running) {
        statuses.add(
          await fetch(`${soak.app.url}/api/v1${LIGHT}`, { headers: authorised(soak) }).then(
            (r) => r.status,
            () => 0,
          ),
        );
        await new Promise((resolve) => setTimeout(resolve, 40));
      }
    })();
    kill();
    await new Promise((resolve) => setTimeout(resolve, 300));
    const back = await untilServed(soak);
    const load = await loadDone(soak, id);
    running = false;
    await asking;
    statuses.delete(200);
    const told = [...statuses].map((s) => (s === 0 ? 'no answer' : s)).join(', ') || 'nothing but 200';
    const clean = !statuses.has(500) && load.status === 'loaded' && back >= 0 && back < BACK_MAX_MS;
    soak.row(
      clean,
      `${what} killed in the middle of a load`,
      `served again after ${back} ms, meanwhile ${told}; the load is ${load.status}${load.status === 'loaded' ? '' : `: ${load.message}`}`,
    );
  }
  rmSync(folder, { recursive: true, force: true });
}

/** The data folder of the installation's own server, as it says itself. */
function dataFolderOf(soak: Soak): string {
  return soak.installation.server?.data ?? '';
}
