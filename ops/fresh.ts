import { cpSync, existsSync, mkdirSync, mkdtempSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Knex } from 'knex';
import { type Context, closeContext, makeContext } from '@/cases/asking/context';
import type { Viewer } from '@/cases/asking/viewer';
import { copyAgain } from '@/cases/loads/copyLines';
import { loadFile } from '@/cases/loads/loading/runLoads';
import { addPerson } from '@/cases/people/people';
import { ownerOf, signIn, viewerOfSession } from '@/cases/people/signIn';
import { BY_THEMSELVES } from '@/cases/tests/byThemselves';
import { seedDemo } from '@/demo/seed';
import { connectForWork } from '@/store/db';
import { migrate } from '@/store/migrate';
import { keepSetting } from '@/store/settings';

/** An installation of its own on the server that DATABASE_URL names, for one test file. */
export interface Fresh {
  ctx: Context;
  owner: Viewer;
  env: NodeJS.ProcessEnv;
  /** For what only whoever runs the database server could do: damage on purpose. */
  superuser: Knex;
  close(): Promise<void>;
}

let made = 0;

/** The demo world's own day. */
const TODAY = '2026-10-05';

/** An empty installation with an owner. */
export async function freshInstallation(today = TODAY): Promise<Fresh> {
  return withOwner(nextName(), mkdtempSync(join(tmpdir(), 'just-thread-fresh-')), today);
}

async function withOwner(name: string, home: string, today: string): Promise<Fresh> {
  const fresh = await installed(name, home, today, 'template0');
  await addPerson(fresh.ctx, null, {
    email: 'owner@test.example',
    name: 'Test Owner',
    role: 'owner',
    password: 'correct horse battery',
    entities: null,
  });
  return { ...fresh, owner: await ownerOf(fresh.ctx.work) };
}

/**
 * An installation that holds the demo world; it is loaded once a run and copied from then on.
 * @param copied whether its lines are copied by columns too, which is done once a run as well
 */
export async function demoInstallation({ copied = false } = {}): Promise<Fresh> {
  const template = templateOf(process.env.JUST_THREAD_TEST_RUN ?? String(process.pid), copied);
  if (!existsSync(template.home)) await makeTemplate(template);
  return copyOfTemplate(template, nextName(), mkdtempSync(join(tmpdir(), 'just-thread-fresh-')));
}

async function copyOfTemplate(template: Template, name: string, home: string): Promise<Fresh> {
  cpSync(template.home, home, { recursive: true });
  const fresh = await installed(name, home, TODAY, template.name);
  return { ...fresh, owner: await ownerOf(fresh.ctx.work) };
}

/** A person of the demo world, signed in as anybody signs in. */
export async function demoPerson({ ctx }: Fresh, who: string): Promise<Viewer> {
  const session = await signIn(ctx, `${who}@kestrel.example`, 'harrowick-quay', { address: '127.0.0.1', agent: '' });
  const viewer = await viewerOfSession(ctx, session);
  if (!viewer) throw new Error(`${who} is nobody of the demo world`);
  return viewer;
}

/** A database and the files beside it, to be copied from. */
interface Template {
  name: string;
  home: string;
  /** What it is made of, where that is another one; it is made before. */
  from: Template | null;
  /** An installation of that name there, as it is before it is filled. */
  begin(name: string, home: string): Promise<Fresh>;
  fill(fresh: Fresh): Promise<unknown>;
}

function templateOf(run: string, copied: boolean): Template {
  const plain: Template = {
    name: `demo_${run.replace(/\W/g, '_').toLowerCase()}`,
    home: join(tmpdir(), `just-thread-demo-${run}`),
    from: null,
    begin(name, home) {
      mkdirSync(home);
      return withOwner(name, home, TODAY);
    },
    fill: ({ ctx }) => seedDemo(ctx, true, () => {}),
  };
  if (!copied) return plain;
  return {
    name: `${plain.name}_copied`,
    home: `${plain.home}-copied`,
    from: plain,
    begin: (name, home) => copyOfTemplate(plain, name, home),
    fill: ({ ctx }) => copyAgain(ctx),
  };
}

/** Makes what is to be copied from; of several test files at once one does, and the others wait for it. */
async function makeTemplate(template: Template): Promise<void> {
  if (template.from && !existsSync(template.from.home)) await makeTemplate(template.from);
  const owner = `${template.home}-loader`;
  const deadline = Date.now() + TEMPLATE_WAIT_MS;
  while (!claimed(owner)) {
    if (existsSync(template.home)) return;
    if (Date.now() > deadline) throw new Error(`the demo world is not there after ${TEMPLATE_WAIT_MS / 1000} s`);
    await new Promise((done) => setTimeout(done, 200));
  }
  try {
    if (!existsSync(template.home)) await makeAnew(template);
  } catch (error) {
    // The next may try again.
    rmSync(owner, { force: true });
    throw error;
  }
}

async function makeAnew({ name, home: kept, begin, fill }: Template): Promise<void> {
  const home = `${kept}-loading`;
  // Whoever began before and was ended in the middle left this behind.
  rmSync(home, { recursive: true, force: true });
  const admin = connectForWork(process.env.DATABASE_URL as string);
  await admin.raw(`drop database if exists ${name} with (force)`).finally(() => admin.destroy());
  const made = await begin(name, home);
  try {
    await fill(made);
  } finally {
    await Promise.all([closeContext(made.ctx), made.superuser.destroy()]);
  }
  // Only what is whole bears the name.
  renameSync(home, kept);
}

/** Whether this process is the one that loads: the first to say so, or the next where that one is no more. */
function claimed(owner: string): boolean {
  try {
    writeFileSync(owner, String(process.pid), { flag: 'wx' });
    return true;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
  }
  const pid = Number(readFileSync(owner, 'utf8'));
  if (pid === process.pid || !Number.isInteger(pid) || pid === 0) return false;
  try {
    process.kill(pid, 0);
  } catch {
    rmSync(owner, { force: true });
  }
  return false;
}

/** How long a test file waits while another loads the demo world. */
const TEMPLATE_WAIT_MS = 100_000;

/** Lets go of the demo world of a run. */
export async function dropDemo(run: string): Promise<void> {
  forgetDemo(run);
  const admin = connectForWork(process.env.DATABASE_URL as string);
  try {
    for (const copied of [true, false])
      await admin.raw(`drop database if exists ${templateOf(run, copied).name} with (force)`);
  } finally {
    await admin.destroy();
  }
}

/** Takes away the files that were kept for a run; its databases go with their server. */
export function forgetDemo(run: string): void {
  for (const copied of [true, false]) {
    const { home } = templateOf(run, copied);
    for (const path of [home, `${home}-loading`, `${home}-loader`]) rmSync(path, { recursive: true, force: true });
  }
}

const nextName = (): string => {
  made += 1;
  return `fresh_${process.pid}_${made}_${Date.now()}`;
};

/** @param template the database that it is a copy of */
async function installed(name: string, home: string, today: string, template: string): Promise<Omit<Fresh, 'owner'>> {
  const server = process.env.DATABASE_URL;
  if (!server) throw new Error('DATABASE_URL names no server; run the tests with ./just-thread test');
  const admin = connectForWork(server);
  await admin.raw(`create database ${name} template ${template}`);
  const url = new URL(server);
  url.pathname = `/${name}`;
  // Everything is asked under the roles of the real thing, so that a right that is missing is found here.
  const { web, work } = await migrate(url.href);
  const env = {
    ...process.env,
    DATABASE_URL: web,
    JUST_THREAD_WORK_URL: work,
    JUST_THREAD_HOME: home,
    JUST_THREAD_TODAY: today,
  };
  const ctx = makeContext(env);
  const superuser = connectForWork(url.href);
  // A test that is not about them is not kept waiting by tests of its lines.
  await keepSetting(superuser, BY_THEMSELVES, { set: null }, 'test');
  return {
    ctx,
    env,
    superuser,
    async close() {
      await Promise.all([closeContext(ctx), superuser.destroy()]);
      await admin.raw(`drop database ${name} with (force)`);
      await admin.destroy();
      rmSync(home, { recursive: true, force: true });
    },
  };
}

/** Loads a file of that name, whatever becomes of it. */
export function sendFile(
  { ctx, owner, env }: Fresh,
  name: string,
  content: string | Buffer,
  fields: Parameters<typeof loadFile>[3],
): ReturnType<typeof loadFile> {
  const path = join(env.JUST_THREAD_HOME as string, name);
  writeFileSync(path, content);
  return loadFile(ctx, owner, path, fields);
}

/** Loads a table as it is written here; it must be right. */
export async function loadText(fresh: Fresh, text: string, fields: Parameters<typeof loadFile>[3]): Promise<void> {
  const load = await sendFile(fresh, `${fields.kind}.csv`, `${text}\n`, fields);
  if (load.status !== 'loaded')
    throw new Error(`the test's own ${fields.kind} were refused: ${load.problems[0]?.message ?? load.message}`);
}
