import { mkdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import type { Knex } from 'knex';
import { FileShelf } from '@/exchange/fileShelf';
import { objectStoreAt } from '@/exchange/objectStore';
import { forEverybody } from '@/store/asking';
import { type Catalogue, newestLoad, readCatalogue } from '@/store/catalogue';
import { ColumnEngine } from '@/store/columns/engine';
import { currentParts, type Part } from '@/store/columns/manifest';
import { connect, connectForWork, connectPatiently, disconnect } from '@/store/db';
import { controlAccounts } from '@/store/documents';
import { type Extents, readExtents } from '@/store/extents';
import { FairShare } from '@/store/fairShare';
import { ANCHORS_FILE, keepAnchors } from '@/store/record';

export { answering, whoAsks } from '@/store/asking';
export { NoTurn } from '@/store/fairShare';
export { log as logged } from '@/store/log';

/** What every use case needs of the installation that it runs in. */
export interface Context {
  /** Interactive questions; a replica if DATABASE_READ_URL names one. */
  read: Knex;
  /** Questions that somebody chose to wait for. */
  patient: Knex;
  /** More lines than this are not read one by one without asking. */
  heavyLines: number;
  /** Changes. */
  write: Knex;
  /** Loads and other long work. */
  work: Knex;
  /** Questions that are worked at together: of one person so many as a screen asks at once. */
  questions: FairShare;
  /** Copies of lines by columns, for what sums do not know. */
  columns: ColumnEngine;
  /** Files that were sent, by their digest: in a folder, or in a store that several servers reach. */
  files: FileShelf;
  /** Folder of all that is kept beside the database. */
  home: string;
  /** The day that relative windows are calculated from. */
  today(): string;
}

/** So many lines are read one by one within the time that a screen waits for an answer. */
const HEAVY_LINES = 1_500_000;

const QUESTIONS = 48;
const QUESTIONS_EACH = 8;
const QUESTIONS_WAIT_MS = 60_000;

let current: Context | null = null;

/** The context of this process, made from the environment at first use. */
export function context(): Context {
  current ??= makeContext(process.env);
  return current;
}

export function makeContext(env: NodeJS.ProcessEnv): Context {
  const url = env.DATABASE_URL;
  if (!url) throw new Error('DATABASE_URL is not set; start with ./just-thread start');
  const home = resolve(/* turbopackIgnore: true */ env.JUST_THREAD_HOME ?? '.local');
  const files = join(/* turbopackIgnore: true */ home, 'files');
  mkdirSync(files, { recursive: true, mode: 0o700 });
  keepAnchors(join(/* turbopackIgnore: true */ home, ANCHORS_FILE));
  const write = connect(url);
  return {
    read: env.DATABASE_READ_URL ? connect(env.DATABASE_READ_URL) : write,
    write,
    work: connectForWork(env.JUST_THREAD_WORK_URL ?? url),
    patient: connectPatiently(env.DATABASE_READ_URL ?? url),
    questions: new FairShare(QUESTIONS, QUESTIONS_EACH, QUESTIONS_WAIT_MS),
    heavyLines: Number(env.JUST_THREAD_HEAVY_LINES ?? HEAVY_LINES),
    columns: new ColumnEngine(join(/* turbopackIgnore: true */ home, 'columns')),
    files: new FileShelf(files, env.FILES_URL ? objectStoreAt(env.FILES_URL) : null),
    home,
    today: () => env.JUST_THREAD_TODAY ?? localToday(),
  };
}

export async function closeContext(ctx: Context): Promise<void> {
  await Promise.all([
    ...[...new Set([ctx.read, ctx.write, ctx.work, ctx.patient])].map(disconnect),
    ctx.columns.close(),
    ctx.files.store?.close(),
  ]);
}

/** The names of the ledger and how far it reaches, as of the newest load. */
export interface Known {
  catalogue: Catalogue;
  extents: Extents;
  newest: number;
  /** Accounts that documents are on, by entity. */
  controls: ReadonlyMap<number, readonly number[]>;
  /** Copies of lines by columns that are as new as the books, by the number of the books. */
  copies: ReadonlyMap<number, readonly Part[]>;
}

const kept = new WeakMap<Knex, { stamp: string; known: Promise<Known> }>();
/** How far lines reach, and on which accounts documents are: what only loads change, and takes longest to find. */
const reaching = new WeakMap<Knex, { lines: string; reach: ReturnType<typeof readReach> }>();

const readReach = (db: Knex) => Promise.all([readExtents(db), controlAccounts(db)]);

const asking = new WeakMap<Knex, ReturnType<typeof newestLoad>>();

/**
 * The stamp of what is newest; those who ask at once ask together. The question goes out after all of them have asked, so
 * that none is told of less than what was there when it asked.
 */
function stampOf(db: Knex): ReturnType<typeof newestLoad> {
  const held = asking.get(db);
  if (held) return held;
  const together = forEverybody(() =>
    Promise.resolve().then(() => {
      asking.delete(db);
      return newestLoad(db);
    }),
  );
  asking.set(db, together);
  return together;
}

/** Read again only after a load or a new entity; every request asks for the stamp first. */
export async function known(db: Knex): Promise<Known> {
  const { load, stamp, lines } = await stampOf(db);
  const held = kept.get(db);
  if (held?.stamp === stamp) return held.known;
  const before = reaching.get(db);
  const fresh = forEverybody(() => {
    const reach = before?.lines === lines ? before.reach : readReach(db);
    reaching.set(db, { lines, reach });
    reach.catch(() => reaching.delete(db));
    return Promise.all([readCatalogue(db), reach, currentParts(db)]);
  }).then(([catalogue, [extents, controls], copies]) => ({
    copies,
    catalogue,
    extents,
    newest: load,
    controls: new Map(
      [...catalogue.entities.values()].map((e) => [
        e.id,
        controls.flatMap((c) => (c.entity === e.id ? [c.account] : [])),
      ]),
    ),
  }));
  kept.set(db, { stamp, known: fresh });
  fresh.catch(() => kept.delete(db));
  return fresh;
}

function localToday(): string {
  const now = new Date();
  return `${now.getFullYear()}-${String(now.getMonth() + 1).padStart(2, '0')}-${String(now.getDate()).padStart(2, '0')}`;
}
