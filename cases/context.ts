import { mkdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import type { Knex } from 'knex';
import { type Catalogue, newestLoad, readCatalogue } from '@/store/catalogue';
import { connect, connectForWork } from '@/store/db';
import { type Extents, readExtents } from '@/store/extents';

/** What every use case needs of the installation that it runs in. */
export interface Context {
  /** Interactive questions; a replica if DATABASE_READ_URL names one. */
  read: Knex;
  /** Changes. */
  write: Knex;
  /** Loads and other long work. */
  work: Knex;
  /** Folder of uploaded files, by digest. */
  files: string;
  /** The day that relative windows are reckoned from. */
  today(): string;
}

let current: Context | null = null;

/** The context of this process, made from the environment at first use. */
export function context(): Context {
  current ??= makeContext(process.env);
  return current;
}

export function makeContext(env: NodeJS.ProcessEnv): Context {
  const url = env.DATABASE_URL;
  if (!url) throw new Error('DATABASE_URL is not set; start with ./just-thread start');
  const files = join(resolve(env.JUST_THREAD_HOME ?? '.local'), 'files');
  mkdirSync(files, { recursive: true });
  const write = connect(url);
  return {
    read: env.DATABASE_READ_URL ? connect(env.DATABASE_READ_URL) : write,
    write,
    work: connectForWork(url),
    files,
    today: () => env.JUST_THREAD_TODAY ?? localToday(),
  };
}

export async function closeContext(ctx: Context): Promise<void> {
  await Promise.all([ctx.read.destroy(), ctx.write.destroy(), ctx.work.destroy()]);
}

/** The names of the ledger and how far it reaches, as of the newest load. */
export interface Known {
  catalogue: Catalogue;
  extents: Extents;
  newest: number;
}

const kept = new WeakMap<Knex, { stamp: string; known: Promise<Known> }>();

/** Read again only after a load or a new entity; every request asks for the stamp first. */
export async function known(db: Knex): Promise<Known> {
  const { load, stamp } = await newestLoad(db);
  const held = kept.get(db);
  if (held?.stamp === stamp) return held.known;
  const fresh = Promise.all([readCatalogue(db), readExtents(db)]).then(([catalogue, extents]) => ({ catalogue, extents, newest: load }));
  kept.set(db, { stamp, known: fresh });
  fresh.catch(() => kept.delete(db));
  return fresh;
}

function localToday(): string {
  const now = new Date();
  return `${now.getFullYear()}-${String(now.getMonth() + 1).padStart(2, '0')}-${String(now.getDate()).padStart(2, '0')}`;
}
