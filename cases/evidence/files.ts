import { createReadStream } from 'node:fs';
import { type Readable, Transform } from 'node:stream';
import { notFound, ProblemError } from '@/contracts/problem';
import { sha256OfFile } from '@/exchange/fileDigest';
import { fileKind, showsOf } from '@/exchange/fileKind';
import { type FileRow, filesOf } from '@/store/evidence';
import { fileContentsOf } from '@/store/search';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { maySeeSubject, withSeenSubject } from '../asking/subjects';
import type { Viewer } from '../asking/viewer';
import { readSoon } from '../documents/readSoon';
import { aboutOf, keepEvidence, shownAbout } from './about';
import { type EvidenceParams, seenEvidence, seenPiece } from './seenEvidence';
import { takeAway } from './takeAway';

const MB = 1024 ** 2;
export const EVIDENCE_FILE_MAX = 50 * MB;

const tooLarge = (): ProblemError =>
  new ProblemError(413, `The file is too large; a file that is attached has at most ${EVIDENCE_FILE_MAX / MB} MB`, [
    { path: 'file', message: `at most ${EVIDENCE_FILE_MAX / MB} MB` },
  ]);

/** Keeps what is sent under its SHA-256. @throws ProblemError 413 where it is too large */
export async function keepEvidenceFile(ctx: Context, name: string, content: Readable) {
  let bytes = 0;
  const within = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      bytes += chunk.length;
      done(bytes > EVIDENCE_FILE_MAX ? tooLarge() : null, chunk);
    },
  });
  content.on('error', (error) => within.destroy(error));
  return { name, ...(await ctx.files.keep(content.pipe(within))) };
}

export interface AttachWanted {
  subject: string;
  label: string;
  address: string;
  thread: number | null;
}

/** Attaches a file to a figure, a line, an entry, a document, a note, a finding or a thread. Whoever may see it may. */
export async function attach(
  ctx: Context,
  viewer: Viewer,
  file: { name: string; digest: string; bytes: number },
  wanted: AttachWanted,
) {
  const about = await aboutOf(ctx, viewer, wanted);
  if (file.bytes === 0) throw wrongFile('the file is empty');
  const path = await ctx.files.pathOf(file.digest);
  const kind = path === null ? null : await fileKind(path, file.name);
  // What is not taken is attached to nothing, and cleared away with what was only looked at.
  if (kind === null)
    throw wrongFile(
      'this is of no kind that is kept as evidence: send a PDF, a picture, a spreadsheet, a letter, plain text or a mail file',
    );
  const id = await onRecord(ctx, viewer, async (trx, record) => {
    const { name, digest, bytes } = file;
    const added = await keepEvidence(trx, 'file', about, { name, digest, bytes, media_type: kind.mediaType });
    await readSoon(trx);
    await record('attached a file', about.subject, { file: added, name, digest, bytes, type: kind.mediaType });
    return added;
  });
  return showFile(ctx, viewer, id);
}

const wrongFile = (message: string): ProblemError =>
  new ProblemError(422, 'The file is not taken', [{ path: 'file', message }]);

/** Files on what the viewer may see, each with where else the same bytes are. */
export async function listFiles(ctx: Context, viewer: Viewer, params: EvidenceParams) {
  const { rows, next } = await seenEvidence(ctx, viewer, 'file', params);
  return { rows: await shownFiles(ctx, viewer, rows), next };
}

/** What a file holds, as plain rows and words; null where it was not read yet. @throws ProblemError 404 */
export async function showContents(ctx: Context, viewer: Viewer, digest: string) {
  const rows = /^[0-9a-f]{64}$/.test(digest) ? await filesOf(ctx.write, [digest]) : [];
  if ((await withSeenSubject(ctx, viewer, rows)).length === 0) throw notFound('That file');
  return { contents: await fileContentsOf(ctx.write, digest) };
}

/** Takes one's own file away from what it is attached to; the record keeps it. */
export const removeFile = (ctx: Context, viewer: Viewer, id: number): Promise<void> =>
  takeAway(ctx, viewer, 'file', id, 'took a file away', ({ file_name: name, digest }) => ({ name, digest }));

/** A file by its content, where the viewer may see anything that it is attached to. It is held against its name as it is read. */
export async function readEvidenceFile(ctx: Context, viewer: Viewer, digest: string) {
  const rows = /^[0-9a-f]{64}$/.test(digest) ? await filesOf(ctx.write, [digest]) : [];
  for (const row of rows) {
    if (!(await maySeeSubject(ctx, viewer, row))) continue;
    const path = await ctx.files.pathOf(digest);
    if (path === null) throw notFound(`The file ${row.file_name}`);
    if ((await sha256OfFile(path)) !== digest)
      throw new ProblemError(
        500,
        `The file “${row.file_name}” is not as it was when it was attached; restore it from a backup`,
      );
    const shows = showsOf(row.media_type);
    return {
      stream: createReadStream(path),
      name: row.file_name,
      mediaType: shows === 'text' ? 'text/plain; charset=utf-8' : shows === null ? null : row.media_type,
    };
  }
  return null;
}

const showFile = async (ctx: Context, viewer: Viewer, id: number) =>
  (await shownFiles(ctx, viewer, [await seenPiece(ctx, viewer, 'file', id)]))[0] as Awaited<
    ReturnType<typeof shownFiles>
  >[number];

async function shownFiles(ctx: Context, viewer: Viewer, rows: readonly FileRow[]) {
  const same = await filesOf(ctx.write, [...new Set(rows.map((f) => f.digest))]);
  const visible = await Promise.all(same.map((f) => maySeeSubject(ctx, viewer, f)));
  const others = same.filter((_, i) => visible[i]);
  return rows.map((f) => ({
    ...shownAbout(f, viewer),
    ...{ digest: f.digest, name: f.file_name, bytes: f.bytes, type: f.media_type },
    sameAs: others.flatMap((o) =>
      o.digest === f.digest && o.id !== f.id
        ? [{ name: o.file_name, label: o.label, by: o.name, at: o.created_at.toISOString() }]
        : [],
    ),
  }));
}
