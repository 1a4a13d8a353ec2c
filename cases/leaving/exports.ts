import { randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import type { z } from 'zod';
import type { newExportSchema } from '@/contracts/bodies/all';
import type { How } from '@/contracts/leaving';
import { notFound, ProblemError } from '@/contracts/problem';
import { readJob } from '@/store/jobs';
import { changeTakenOut, insertTakenOut, type TakenOutRow, takenOut, takenOutOf } from '@/store/leaving';
import { readHead } from '@/store/record';
import type { Context } from '../asking/context';
import { headName } from '../asking/onRecord';
import type { Viewer } from '../asking/viewer';
import type { Exported } from '../exports/exportData';
import { addJob, begunBy } from '../jobs/jobs';
import { leafOf } from './leafOf';
import { fileNameOf } from './takeOut';

/** Files that were made are there for so many days. */
export const DAYS_KEPT = 30;
const LISTED = 200;

/** Has a sheet made into a file by a worker, for whoever does not wait in front of the screen. */
export async function askExport(
  ctx: Context,
  viewer: Viewer,
  { path, format, ...how }: z.infer<typeof newExportSchema>,
) {
  // What may not be asked is refused now, not in a job.
  const { title } = await leafOf(ctx, viewer, path);
  const id = await ctx.write.transaction(async (trx) => {
    const made = await insertTakenOut(trx, {
      person: viewer.id,
      title: how.title ?? title,
      ...{ path, format, how },
    });
    const job = await addJob(trx, {
      ...begunBy(viewer),
      kind: 'export',
      subject: `export ${made}`,
      label: `${how.title ?? title} as ${format}`,
      entities: viewer.entities && [...viewer.entities],
      input: { export: made },
    });
    await changeTakenOut(trx, made, { job });
    return made;
  });
  return { id };
}

/** Files that were made for the viewer, newest first. */
export async function showExports(ctx: Context, viewer: Viewer) {
  const rows = await takenOutOf(ctx.write, viewer.id, LISTED);
  return { rows: await Promise.all(rows.map((row) => shown(ctx, row))) };
}

export const showExport = async (ctx: Context, viewer: Viewer, id: number) => shown(ctx, await mine(ctx, viewer, id));

/** The file, once it is there. @throws ProblemError 404, 409 */
export async function exportFile(ctx: Context, viewer: Viewer, id: number): Promise<Exported> {
  const row = await mine(ctx, viewer, id);
  if (row.digest === null || row.file_name === null)
    throw new ProblemError(409, 'This file is not made yet; ask again in a moment');
  const path = await ctx.files.pathOf(row.digest);
  if (path === null) throw notFound(`The file of export ${id}`);
  return {
    stream: createReadStream(/* turbopackIgnore: true */ path),
    fileName: row.file_name,
    mediaType: row.media_type ?? 'application/octet-stream',
    head: await readHead(ctx.read),
  };
}

/** What was made for somebody is kept as one of their files. */
export async function keepMade(
  ctx: Context,
  person: number,
  { title, path, format, how }: { title: string; path: string; format: TakenOutRow['format']; how: How },
  stream: Exported['stream'],
  mediaType: string,
): Promise<{ id: number; fileName: string; digest: string; bytes: number }> {
  const { digest, bytes } = await ctx.files.keep(stream);
  const fileName = `${fileNameOf(title)}-${headName(await readHead(ctx.work))}.${format}`;
  const id = await insertTakenOut(ctx.work, {
    ...{ person, title, path, format, how, digest, bytes },
    ...{ file_name: fileName, media_type: mediaType, made_at: new Date() },
  });
  return { id, fileName, digest, bytes };
}

async function mine(ctx: Context, viewer: Viewer, id: number): Promise<TakenOutRow> {
  const row = await takenOut(ctx.write, id);
  if (!row || row.person !== viewer.id) throw notFound(`Export ${id}`);
  return row;
}

async function shown(ctx: Context, row: TakenOutRow) {
  const job = row.job === null ? null : await readJob(ctx.write, row.job);
  return {
    id: row.id,
    title: row.title,
    path: row.path,
    format: row.format,
    state: row.digest !== null ? ('done' as const) : ((job?.state ?? 'waiting') as JobState),
    message: job?.message ?? null,
    fileName: row.file_name,
    bytes: row.bytes,
    digest: row.digest,
    at: row.at.toISOString(),
    job: row.job,
  };
}

type JobState = 'waiting' | 'under way' | 'done' | 'refused' | 'cancelled' | 'put aside';

/** A name that nobody guesses (RFC 9562), without its hyphens. */
export const unguessable = (): string => randomUUID().replaceAll('-', '');
