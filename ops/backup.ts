import { spawn } from 'node:child_process';
import {
  createReadStream,
  existsSync,
  linkSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { copyFile } from 'node:fs/promises';
import { basename, dirname, join, resolve } from 'node:path';
import { type Context, closeContext, makeContext } from '@/cases/asking/context';
import { askUnfinishedAgain } from '@/cases/jobs/jobs';
import { check } from '@/cases/upkeep/check';
import { sha256Of } from '@/exchange/fileDigest';
import { connectForWork, rowsOf } from '@/store/db';
import { knownMigrations, migrate } from '@/store/migrate';
import { ANCHORS_FILE, readHead } from '@/store/record';
import { homeOf, type Installation } from './installation';
import { SetupError, serverProgram, startPostgres } from './postgres';

/** What a backup says of itself, first in it. */
interface Manifest {
  format: 'just-thread backup';
  /** The newest step of the schema: who does not know it cannot read it. */
  schema: string;
  at: string;
  /** How far the record of who did what goes. */
  record: { number: number; hash: string };
  files: { path: string; sha256: string; bytes: number }[];
}

const MANIFEST = 'manifest.json';
const DUMP = 'database.dump';
const KEY = 'signing-key.pem';
/** What is made again from the rest: the queue is filled from the jobs, copies by columns from the lines. */
const LEFT_OUT = ['--exclude-schema=graphile_worker'];

/**
 * A backup while people work and loads run: the database as of one moment (one snapshot of pg_dump), every file, the key
 * that signs, the anchors of the record, and a list of all of it with SHA-256. Files are never changed and are taken after
 * the database, so that all that it names are there.
 * @param path of the file that is made; it is there whole or not at all
 */
export async function backup(
  { ctx, server, env }: Pick<Installation, 'ctx' | 'server' | 'env'>,
  given: string,
  path: string,
): Promise<{ files: number; bytes: number; record: number }> {
  const target = resolve(path);
  if (existsSync(target)) throw new SetupError(`${path} is there already; name another file`);
  const home = resolve(homeOf(env));
  const folder = mkdtempSync(join(dirname(target), `.${basename(target)}-`));
  try {
    const files: Manifest['files'] = [];
    // What was anchored is taken before the record, which then goes at least as far.
    for (const name of [KEY, ANCHORS_FILE])
      if (existsSync(join(home, name))) {
        await copyFile(join(home, name), join(folder, name));
        files.push(await listed(folder, name));
      }
    const { url, secret } = apart(server?.url ?? given);
    await run(serverProgram('pg_dump'), ['--format=custom', ...LEFT_OUT, `--file=${join(folder, DUMP)}`, url], secret);
    files.push(await listed(folder, DUMP));
    mkdirSync(join(folder, 'files'));
    for await (const { name } of ctx.files.all()) {
      const from = /^[0-9a-f]{64}$/.test(name) ? await ctx.files.pathOf(name) : null;
      if (from === null) continue;
      await placed(from, join(folder, 'files', name));
      files.push({ path: `files/${name}`, sha256: name, bytes: statSync(from).size });
    }
    const manifest: Manifest = {
      format: 'just-thread backup',
      schema: knownMigrations().at(-1) ?? '',
      at: new Date().toISOString(),
      record: await readHead(ctx.read),
      files,
    };
    writeFileSync(join(folder, MANIFEST), JSON.stringify(manifest, null, 1));
    const partial = `${target}.partial`;
    await run('tar', [
      '--create',
      `--file=${partial}`,
      `--directory=${folder}`,
      MANIFEST,
      ...readdirSync(folder).filter((n) => n !== MANIFEST),
    ]);
    renameSync(partial, target);
    return { files: files.length, bytes: statSync(target).size, record: manifest.record.number };
  } finally {
    rmSync(folder, { recursive: true, force: true });
    rmSync(`${target}.partial`, { force: true });
  }
}

const NAMED = /^just-thread-(\d{4}-\d\d-\d\d)\.backup$/;

/** Which backup is to be made today, and which of a folder are older than so many are kept. */
export function backupsOf(
  names: readonly string[],
  today: string,
  keep: number,
): { make: string | null; drop: string[] } {
  const made = names.filter((name) => NAMED.test(name)).sort();
  const mine = `just-thread-${today}.backup`;
  const all = made.includes(mine) ? made : [...made, mine];
  return { make: made.includes(mine) ? null : mine, drop: all.slice(0, Math.max(0, all.length - keep)) };
}

const LOOK_EVERY_MS = 10 * 60_000;

/** Makes a backup each day into a folder, by UTC, and keeps so many. What goes wrong is said, and tried again. */
export function keepBackups(
  installation: Pick<Installation, 'ctx' | 'server' | 'env'>,
  given: string,
  { folder, keep }: { folder: string; keep: number },
  say: (text: string) => void,
): { stop(): void } {
  let busy = false;
  const look = async (): Promise<void> => {
    if (busy) return;
    busy = true;
    try {
      mkdirSync(folder, { recursive: true, mode: 0o700 });
      const { make, drop } = backupsOf(readdirSync(folder), new Date().toISOString().slice(0, 10), keep);
      if (make !== null) {
        const { bytes } = await backup(installation, given, join(folder, make));
        say(`The backup of the day is made: ${join(folder, make)}, ${Math.ceil(bytes / 1024 ** 2)} MB`);
      }
      // The old go once the new one is there.
      for (const name of drop) rmSync(join(folder, name), { force: true });
    } catch (error) {
      say(`The backup of the day could not be made: ${(error as Error).message}`);
    } finally {
      busy = false;
    }
  };
  void look();
  const looking = setInterval(() => void look(), LOOK_EVERY_MS);
  return { stop: () => clearInterval(looking) };
}

/**
 * Puts a backup into an installation that is empty, brings its schema up to date and checks it. All of it is held against
 * its list before anything is touched.
 * @throws SetupError where the backup is damaged or the installation is not empty
 */
export async function restore(
  env: NodeJS.ProcessEnv,
  path: string,
  say: (text: string) => void,
): Promise<{ faults: number }> {
  process.umask(0o077);
  const home = resolve(homeOf(env));
  mkdirSync(join(home, 'files'), { recursive: true, mode: 0o700 });
  const folder = mkdtempSync(join(home, '.restore-'));
  try {
    say('Reading the backup …');
    await run('tar', ['--extract', `--file=${resolve(path)}`, `--directory=${folder}`, '--no-same-owner']).catch(
      (error: Error) => {
        throw new SetupError(`the backup cannot be read: ${error.message.split('\n')[0]}; nothing was touched`);
      },
    );
    const manifest = await whole(folder);
    if (!env.DATABASE_URL && existsSync(join(home, 'postgres', 'data', 'PG_VERSION')))
      throw new SetupError(`${home} holds an installation already; name an empty folder with JUST_THREAD_HOME`);
    const server = env.DATABASE_URL ? null : await startPostgres(home, true);
    try {
      const given = env.DATABASE_URL ?? server?.url ?? '';
      await mustBeEmpty(given);
      const { url, secret } = apart(given);
      say('Putting the database in its place …');
      await run(
        serverProgram('pg_restore'),
        ['--no-owner', '--no-privileges', '--exit-on-error', `--dbname=${url}`, join(folder, DUMP)],
        secret,
      );
      for (const name of readdirSync(join(folder, 'files')))
        renameSync(join(folder, 'files', name), join(home, 'files', name));
      for (const name of [KEY, ANCHORS_FILE])
        if (existsSync(join(folder, name))) renameSync(join(folder, name), join(home, name));
      const addresses = await migrate(given);
      const ctx = makeContext({
        ...env,
        DATABASE_URL: addresses.web,
        JUST_THREAD_WORK_URL: addresses.work,
        JUST_THREAD_HOME: home,
      });
      try {
        return { faults: await afterwards(ctx, given, manifest, say) };
      } finally {
        await closeContext(ctx);
      }
    } finally {
      server?.stop();
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

async function afterwards(
  ctx: Context,
  given: string,
  manifest: Manifest,
  say: (text: string) => void,
): Promise<number> {
  const admin = connectForWork(given);
  // Copies by columns lie in a folder that no backup holds; the worker makes them again.
  await admin.raw('truncate column_part').finally(() => admin.destroy());
  const again = await askUnfinishedAgain(ctx);
  if (again > 0) say(`${again} pieces of work that were not done are asked for again`);
  const head = await readHead(ctx.read);
  say(`The record goes to entry ${head.number}; when the backup ended it went to ${manifest.record.number}.`);
  let faults = 0;
  for await (const { what, ok, detail } of check(ctx)) {
    if (!ok) faults += 1;
    say(`${ok ? '✓' : '✗'} ${what}: ${detail}`);
  }
  return faults;
}

/** The list of an unfolded backup, all of which is there and as it was. @throws SetupError */
async function whole(folder: string): Promise<Manifest> {
  const path = join(folder, MANIFEST);
  const text = existsSync(path) ? readFileSync(path, 'utf8') : '';
  const manifest = parsed(text);
  if (manifest?.format !== 'just-thread backup')
    throw new SetupError('this is no backup of Just Thread; nothing was touched');
  if (!knownMigrations().includes(manifest.schema))
    throw new SetupError(
      `the backup was made by a newer version (schema ${manifest.schema}); take that one to restore it`,
    );
  for (const { path: name, sha256 } of manifest.files) {
    const at = join(folder, name);
    const found = existsSync(at) ? await sha256Of(createReadStream(at)) : null;
    if (found !== sha256)
      throw new SetupError(
        `the backup is damaged: ${name} ${found === null ? 'is missing' : 'is not as it was'}; nothing was touched`,
      );
  }
  return manifest;
}

function parsed(text: string): Manifest | null {
  try {
    return JSON.parse(text) as Manifest;
  } catch {
    return null;
  }
}

async function mustBeEmpty(url: string): Promise<void> {
  const db = connectForWork(url);
  try {
    const [row] = await rowsOf<{ tables: number }>(
      db,
      "select count(*)::integer as tables from pg_class where relnamespace = 'public'::regnamespace and relkind in ('r', 'p')",
    );
    if ((row?.tables ?? 0) > 0) throw new SetupError('the database is not empty; restore into an empty one');
  } finally {
    await db.destroy();
  }
}

const listed = async (folder: string, name: string): Promise<Manifest['files'][number]> => {
  const at = join(folder, name);
  return { path: name, sha256: (await sha256Of(createReadStream(at))) as string, bytes: statSync(at).size };
};

/** The same file under another name where that is on the same disk, else a copy. */
async function placed(from: string, to: string): Promise<void> {
  try {
    linkSync(from, to);
  } catch {
    await copyFile(from, to);
  }
}

/** An address without its password, which no list of processes is to show. */
function apart(url: string): { url: string; secret: string } {
  const read = new URL(url);
  const secret = decodeURIComponent(read.password);
  read.password = '';
  return { url: read.href, secret };
}

const SAID_MAX = 2_000;

const run = (program: string, args: readonly string[], secret?: string): Promise<void> =>
  new Promise((done, failed) => {
    const child = spawn(program, args, {
      stdio: ['ignore', 'ignore', 'pipe'],
      env: { ...process.env, ...(secret === undefined ? {} : { PGPASSWORD: secret }) },
    });
    let said = '';
    child.stderr.on('data', (chunk: Buffer) => {
      said = `${said}${chunk}`.slice(-SAID_MAX);
    });
    child.once('error', (error) => failed(new SetupError(`${basename(program)}: ${error.message}`)));
    child.once('exit', (code) =>
      code === 0 ? done() : failed(new SetupError(`${basename(program)} failed: ${said.trim() || `exit ${code}`}`)),
    );
  });
