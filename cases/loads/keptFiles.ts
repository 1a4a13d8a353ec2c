import { stat } from 'node:fs/promises';
import { type Readable, Transform } from 'node:stream';
import { notFound, ProblemError } from '@/contracts/problem';
import { heldBy, letGoOf, neededFiles, noteKept, sentBy } from '@/store/keptFiles';
import type { Context } from '../asking/context';

export { StoreAway } from '@/exchange/fileShelf';

import { maySeeBooks, require, type Viewer } from '../asking/viewer';

export interface KeptFile {
  name: string;
  digest: string;
  bytes: number;
}

/** Files that a person sent to be looked at and did not load: so many, and so many bytes of them, at the most. */
const FILES_MAX = 500;
const BYTES_MAX = 40 * 1024 ** 3;
/** After so long a file that was only looked at is cleared away. */
const HOURS_KEPT = 24;

/** Keeps a file under its SHA-256, so that what was loaded can be shown for ever. */
export const keepFile = async (ctx: Context, name: string, content: Readable): Promise<KeptFile> => ({
  name,
  ...(await ctx.files.keep(content)),
});

/** Keeps a file that somebody sends, as far as they have room. @throws ProblemError 429 where they have none */
export async function keepUpload(ctx: Context, viewer: Viewer, name: string, content: Readable): Promise<KeptFile> {
  require(viewer, 'preparer', 'load data');
  const held = await heldBy(ctx.write, viewer.id);
  let room = BYTES_MAX - held.bytes;
  if (room <= 0 || held.files >= FILES_MAX) throw noRoom();
  const within = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      room -= chunk.length;
      done(room < 0 ? noRoom() : null, chunk);
    },
  });
  content.on('error', (error) => within.destroy(error));
  const file = await keepFile(ctx, name, content.pipe(within));
  await noteKept(ctx.write, file.digest, file.bytes, viewer.id);
  return file;
}

const noRoom = (): ProblemError =>
  new ProblemError(
    429,
    `You have too many files here that were looked at and not loaded; load them, or send this in ${HOURS_KEPT} hours, when they are cleared away`,
  );

/** A file that was kept before. @throws ProblemError if it is not there */
export async function keptFile(ctx: Context, name: string, digest: string): Promise<KeptFile & { path: string }> {
  const path = await ctx.files.pathOf(digest);
  if (path === null) throw notFound('That file');
  return { name, digest, bytes: (await stat(path)).size, path };
}

/**
 * A file to be looked at or loaded, by its digest. Whoever sees a part of the books takes only what they sent themselves:
 * another's file may hold what lies outside their grant.
 */
export async function ownFile(ctx: Context, viewer: Viewer, file: { name: string; digest: string }): Promise<KeptFile> {
  require(viewer, 'preparer', 'load data');
  const { path: _, ...kept } = await keptFile(ctx, file.name, file.digest);
  if (!maySeeBooks(viewer, null) && !(await sentBy(ctx.write, file.digest, viewer.id))) throw notFound('That file');
  return kept;
}

/** Clears away what was only looked at, and what broken uploads left. @returns how many files went */
export async function clearFiles(ctx: Context, now = Date.now()): Promise<number> {
  const needed = await neededFiles(ctx.work);
  const before = new Date(now - HOURS_KEPT * 3_600_000);
  let cleared = 0;
  for await (const { name, at } of ctx.files.all()) {
    // What is being pulled from a source is its own affair.
    if (needed.has(name) || name.startsWith('.pull-')) continue;
    if (at > before || (await letGoOf(ctx.work, name, before))) continue;
    await ctx.files.remove(name);
    cleared += 1;
  }
  return cleared;
}
