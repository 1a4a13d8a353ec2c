import { createReadStream, existsSync, mkdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import type { PoolClient } from 'pg';
import { from as copyFrom } from 'pg-copy-streams';
import { addEntity } from '@/cases/charts/entities';
import { runJobsHere } from '@/cases/jobs/runJob';
import { copyAgain } from '@/cases/loads/copyLines';
import { keepFile } from '@/cases/loads/keptFiles';
import { loadFile, runLoadsUpTo } from '@/cases/loads/loading/runLoads';
import { queueLoad, showLoad } from '@/cases/loads/loads';
import { addPerson } from '@/cases/people/people';
import { ownerOf } from '@/cases/people/signIn';
import { makeToken } from '@/cases/people/tokens';
import { BY_THEMSELVES } from '@/cases/tests/byThemselves';
import { check } from '@/cases/upkeep/check';
import { allParts } from '@/store/columns/manifest';
import { connectForWork, rowsOf } from '@/store/db';
import { keepSetting } from '@/store/settings';
import { build } from '../build';
import { type Installation, openInstallation, startApp, temporaryHome } from '../installation';
import { freePort } from '../postgres';
import { type Asked, ask, type Door, measure, timingOf, together } from './asked';
import { COLUMNS, COMPANIES, writeLedger } from './ledger';
import { besideProposed, proposeMany } from './proposed';
import { kinds } from './questions';
import { beside } from './references';

const ROUNDS = 9;
const READERS = 20;
const TODAY = '2026-10-05';
const WORST = 10;

const whole = (n: number): string => Math.round(n).toLocaleString('en');

/** Beside a ledger that is kept: the files that it was loaded from. */
const KEPT = 'bench.json';

/**
 * Generates a ledger of about N lines, loads it beside a bare COPY of the same file, and asks every kind of question that
 * a screen can ask over HTTP, beside plain PostgreSQL and DuckDB over the same lines where those can be asked the same.
 * @param keep a folder in which the ledger stays; where it is there already it is only asked. Without one nothing is left
 * @param proposed asks each kind as booked and with a thousand proposed lines in its place
 */
export async function bench(
  { lines, keep, proposed = false }: { lines: number; keep?: string | undefined; proposed?: boolean },
  say: (text: string) => void,
): Promise<void> {
  if (!Number.isInteger(lines) || lines < 1) throw new Error('--lines takes a whole number');
  await build(say);
  const home = keep ? resolve(keep) : temporaryHome('bench');
  mkdirSync(home, { recursive: true });
  const installation = await openInstallation({ ...process.env, JUST_THREAD_HOME: home, JUST_THREAD_TODAY: TODAY });
  try {
    const kept = join(home, KEPT);
    const files: Files = existsSync(kept)
      ? JSON.parse(readFileSync(kept, 'utf8'))
      : await loadLedger(installation, home, lines, say);
    if (keep) writeFileSync(kept, JSON.stringify(files));
    if (proposed) await proposeMany(installation);
    await asking(installation, (door) =>
      proposed ? besideProposed(door, kinds(), say) : askEverything(installation, door, files, say),
    );
  } finally {
    await (keep ? installation.close() : installation.destroy());
  }
}

interface Files {
  lines: string;
  chart: string;
}

async function loadLedger(
  { ctx, server, env }: Installation,
  home: string,
  lines: number,
  say: (text: string) => void,
): Promise<Files> {
  say(`Generating about ${whole(lines)} lines …`);
  const files = await writeLedger(home, lines);
  await addPerson(ctx, null, {
    email: 'bench@bench.example',
    name: 'Bench',
    role: 'owner',
    password: 'rain on the slipway',
    entities: null,
  });
  const owner = await ownerOf(ctx.work);
  // Reading is measured with nothing else under way; what tests take is measured by themselves.
  await keepSetting(ctx.write, BY_THEMSELVES, { set: null }, 'bench');
  for (const { code, name } of COMPANIES)
    await addEntity(ctx, owner, {
      ...{ code, name, currency: 'EUR', yearEnd: 'derived', retainedEarnings: '3120' },
      calendar: { kind: 'monthly', start: '04', adjustmentPeriods: 1 },
    });
  await loadFile(ctx, owner, files.dimensions, { kind: 'dimensions', format: 'csv' });
  for (const { code } of COMPANIES)
    await loadFile(ctx, owner, files.chart, { kind: 'accounts', format: 'csv', entity: code });

  say('Bare COPY …');
  // A checkpoint is for whoever owns the server.
  const admin = connectForWork(server?.url ?? env.JUST_THREAD_WORK_URL ?? '');
  const bare = await bareCopy(admin, files.lines).finally(() => admin.destroy());
  say('Loading with checks, summaries and indexes …');
  const kept = await keepFile(ctx, 'lines.csv', createReadStream(files.lines));
  collectGarbage(); // what generating the file left behind is not the load's
  const load = await watched(async () => {
    const id = await queueLoad(ctx, owner, kept, { kind: 'lines', format: 'csv' });
    await runLoadsUpTo(ctx, id);
    return showLoad(ctx, owner, id);
  });
  if (load.found.status !== 'loaded') throw new Error(load.found.message ?? 'the load was refused');
  const rate = load.found.lines / load.seconds;
  say(`\n${whole(load.found.lines)} lines, ${whole(statSync(files.lines).size / 1024 ** 2)} MB`);
  say(`load                    ${whole(rate)} lines/s, ${load.seconds.toFixed(1)} s, peak memory ${load.peak} MB`);
  say(`bare COPY               ${whole(bare)} lines/s; the load is ${((100 * rate) / bare).toFixed(0)} % of it`);
  const copies = await watched(() => copyAgain(ctx));
  const bytes = (await allParts(ctx.work)).reduce((sum, part) => sum + part.bytes, 0);
  say(
    `copies by columns       ${copies.seconds.toFixed(1)} s by a job after the load, peak memory ${copies.peak} MB, ${whole(bytes / 1024 ** 2)} MB of disk`,
  );
  for (const { what, bytes: size } of await sizes(ctx.work))
    say(`${what.padEnd(23)} ${whole(size / 1024 ** 2)} MB of disk`);
  const sealing = await watched(() => runJobsHere(ctx));
  say(`digests, after the load ${sealing.seconds.toFixed(1)} s`);
  const faults: string[] = [];
  const checking = await watched(async () => {
    for await (const { what, ok, detail } of check(ctx)) if (!ok) faults.push(`${what}: ${detail}`);
  });
  say(
    `check of everything     ${checking.seconds.toFixed(1)} s, ${faults.length === 0 ? 'all holds' : faults.join('; ')}\n`,
  );
  return files;
}

/** Starts the application over an installation that holds the ledger, for as long as it is asked. */
async function asking({ ctx, env }: Installation, questions: (door: Door) => Promise<void>): Promise<void> {
  const app = await startApp({ ...env, JUST_THREAD_TODAY: TODAY }, await freePort(), { worker: false });
  try {
    await questions({ url: app.url, token: await makeToken(ctx, 'bench@bench.example', {}) });
  } finally {
    await app.stop();
  }
}

/** Asks every kind of question. */
async function askEverything(
  { ctx }: Installation,
  door: Door,
  files: Files,
  say: (text: string) => void,
): Promise<void> {
  const first = await ask(door, kinds()[0]?.path ?? '/health');
  say(`first question after a start: ${whole(first.ms)} ms`);
  const found: Asked[] = [];
  say(`${'question'.padEnd(52)} median   p95    rows  answered by`);
  for (const kind of kinds()) {
    const asked = await measure(door, kind, ROUNDS);
    found.push(asked);
    say(rowOf(asked));
  }
  const median = timingOf(found.map((f) => f.median));
  const slow = found.filter((f) => f.p95 > 250).length;
  const over = found.filter((f) => f.median > 100).length;
  say(
    `\n${found.length} kinds: median of medians ${whole(median.median)} ms; ${over} with a median over 100 ms, ${slow} with a p95 over 250 ms, ${found.filter((f) => f.refused).length} refused. The worst:`,
  );
  for (const asked of [...found].sort((a, b) => b.p95 - a.p95).slice(0, WORST)) say(rowOf(asked));
  await beside(ctx.work, door, files, say);
  const paths = kinds().map((k) => k.path);
  const many = await together(door, paths, { readers: READERS, pauseMs: 1_000, seconds: 60 });
  say(
    `\n${READERS} readers who look at each answer for about a second, all kinds: ${many.perSecond.toFixed(1)} answers a second, median ${whole(many.median)} ms, p95 ${whole(many.p95)} ms`,
  );
}

const rowOf = ({ name, median, p95, rows, by, refused }: Asked): string =>
  `${name.padEnd(52)} ${whole(median).padStart(6)} ${whole(p95).padStart(5)} ${(rows === null ? '–' : whole(rows)).padStart(7)}  ${refused ?? by}`;

/** Frees what is no longer used, now rather than when the machine gets around to it. */
function collectGarbage(): void {
  setFlagsFromString('--expose-gc');
  (runInNewContext('gc') as () => void)();
}

/** Does something, and tells how long it took and how much memory this process had meanwhile. */
async function watched<Found>(work: () => Promise<Found>): Promise<{ found: Found; seconds: number; peak: number }> {
  let peak = 0;
  const watch = setInterval(() => (peak = Math.max(peak, process.memoryUsage().rss)), 200);
  const started = performance.now();
  const found = await work().finally(() => clearInterval(watch));
  return { found, seconds: (performance.now() - started) / 1_000, peak: Math.round(peak / 1024 ** 2) };
}

/** What the parts of the database take on disk. */
async function sizes(db: Parameters<typeof rowsOf>[0]): Promise<{ what: string; bytes: number }[]> {
  const [row] = await rowsOf<Record<string, number>>(
    db,
    `select sum(pg_table_size(c.oid)) filter (where c.relname like 'line\\_e%')::bigint as lines,
       sum(pg_indexes_size(c.oid)) filter (where c.relname like 'line\\_e%')::bigint as indexes,
       sum(pg_total_relation_size(c.oid)) filter (where c.relname = 'entry')::bigint as entries,
       sum(pg_total_relation_size(c.oid)) filter (where c.relname like 'balance\\_%')::bigint as sums
     from pg_class c where c.relkind = 'r'`,
  );
  return [
    ['lines', row?.lines],
    ['indexes of lines', row?.indexes],
    ['entries', row?.entries],
    ['sums', row?.sums],
  ].map(([what, bytes]) => ({ what: String(what), bytes: Number(bytes ?? 0) }));
}

/** Rows a second of COPY into an unindexed, logged table of the same columns as text. */
async function bareCopy(db: Parameters<typeof rowsOf>[0], path: string): Promise<number> {
  const columns = COLUMNS.map((_, i) => `c${i} text`).join(', ');
  await db.raw(`create table bare_copy (${columns})`);
  const client = (
    db as unknown as {
      client: { acquireConnection(): Promise<PoolClient>; releaseConnection(c: PoolClient): Promise<void> };
    }
  ).client;
  const connection = await client.acquireConnection();
  const started = performance.now();
  const stream = connection.query(copyFrom('copy bare_copy from stdin with (format csv, header true)'));
  await pipeline(createReadStream(path), stream);
  const seconds = (performance.now() - started) / 1000;
  await client.releaseConnection(connection);
  const [row] = await rowsOf<{ n: number }>(db, 'select count(*)::integer as n from bare_copy');
  await db.raw('drop table bare_copy');
  await db.raw('checkpoint'); // what it left to be written is not the next measurement's
  return (row?.n ?? 0) / seconds;
}
