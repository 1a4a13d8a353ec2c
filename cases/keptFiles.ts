import { readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { type Readable, Transform } from 'node:stream';
import { notFound, ProblemError } from '@/contracts/problem';
import { rowsOf } from '@/store/db';
import type { Context } from './context';
import { keepContent } from './keepContent';
import { require, type Viewer } from './viewer';

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
/** What the ledger needs: files of loads, and files that came with documents. */
const NEEDED = 'select file_digest from load union select digest from attachment';

/** Keeps a file under its SHA-256, so that what was loaded can be shown for ever. */
export const keepFile = async (ctx: Context, name: string, content: Readable): Promise<KeptFile> => ({ name, ...(await keepContent(ctx.files, content)) });

/** Keeps a file that somebody sends, as far as they have room. @throws ProblemError 429 where they have none */
export async function keepUpload(ctx: Context, viewer: Viewer, name: string, content: Readable): Promise<KeptFile> {
  require(viewer, 'preparer', 'load data');
  const [held] = await rowsOf<{ files: number; bytes: number }>(
    ctx.write,
    `select count(*)::integer as files, coalesce(sum(bytes), 0)::bigint as bytes from kept_file where person = ? and digest not in (${NEEDED})`,
    [viewer.id],
  );
  let room = BYTES_MAX - (held?.bytes ?? 0);
  if (room <= 0 || (held?.files ?? 0) >= FILES_MAX) throw noRoom();
  const within = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      room -= chunk.length;
      done(room < 0 ? noRoom() : null, chunk);
    },
  });
  content.on('error', (error) => within.destroy(error));
  const file = await keepFile(ctx, name, content.pipe(within));
  const row = { digest: file.digest, bytes: file.bytes, person: viewer.id, kept_at: new Date() };
  await ctx.write('kept_file').insert(row).onConflict('digest').merge();
  return file;
}

const noRoom = (): ProblemError =>
  new ProblemError(
    429,
    `You have too many files here that were looked at and not loaded; load them, or send this in ${HOURS_KEPT} hours, when they are cleared away`,
  );

/** A file that was kept before. @throws ProblemError if it is not there */
export async function keptFile(ctx: Context, name: string, digest: string): Promise<KeptFile> {
  const found = await stat(join(ctx.files, digest)).catch(() => null);
  if (!found) throw notFound('That file');
  return { name, digest, bytes: found.size };
}

/** Clears away what was only looked at, and what broken uploads left. @returns how many files went */
export async function clearFiles(ctx: Context, now = Date.now()): Promise<number> {
  const needed = new Set((await rowsOf<{ file_digest: string }>(ctx.work, NEEDED)).map((r) => r.file_digest));
  let cleared = 0;
  for (const name of await readdir(ctx.files).catch(() => [] as string[])) {
    // What is being pulled from a source is its own affair.
    if (needed.has(name) || name.startsWith('.pull-')) continue;
    const path = join(ctx.files, name);
    const found = await stat(path).catch(() => null);
    if (!found?.isFile() || now - found.mtimeMs < HOURS_KEPT * 3_600_000) continue;
    const gone = await ctx
      .work('kept_file')
      .where({ digest: name })
      .andWhere('kept_at', '<', new Date(now - HOURS_KEPT * 3_600_000))
      .delete();
    const [still] = gone === 0 ? await rowsOf(ctx.work, 'select 1 from kept_file where digest = ?', [name]) : [];
    if (still) continue;
    await rm(path, { force: true });
    cleared += 1;
  }
  return cleared;
}
