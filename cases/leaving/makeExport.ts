import { type Readable, Transform } from 'node:stream';
import { answering } from '@/store/asking';
import { changeTakenOut, forgetTakenOut, type TakenOutRow, takenOut } from '@/store/leaving';
import type { Context } from '../asking/context';
import type { Viewer } from '../asking/viewer';
import type { Work } from '../jobs/work';
import { viewerOfPerson } from '../people/signIn';
import { bundleOf } from './bundle';
import { DAYS_KEPT } from './exports';
import { takeOut } from './takeOut';

/** The work of an export: the sheet as its asker may see it now, kept as a file. */
export async function makeExport({ ctx, job, tell }: Work): Promise<{ message: string }> {
  const { export: id } = job.input as { export: number };
  const row = await takenOut(ctx.work, id);
  if (!row) return { message: 'it is not wanted any more' };
  const viewer = await viewerOfPerson(ctx, row.person);
  const { fileName, bytes } = await answering(
    { id: `job ${job.id}`, signal: new AbortController().signal, person: viewer.email },
    () => fileOf(ctx, viewer, row, (bytes) => tell(0, `${Math.round(bytes / 1024)} kB are written`)),
  );
  await forgetTakenOut(ctx.work, DAYS_KEPT);
  return { message: `${fileName}, ${Math.ceil(bytes / 1024)} kB` };
}

async function fileOf(
  ctx: Context,
  viewer: Viewer,
  { id, title, path, format, how }: Pick<TakenOutRow, 'id' | 'title' | 'path' | 'format' | 'how'>,
  told: (bytes: number) => Promise<void>,
): Promise<{ fileName: string; bytes: number }> {
  const exported =
    format === 'zip'
      ? await bundleOf(ctx, viewer, path.slice('/threads/'.length).split(',').map(Number), title)
      : await takeOut(ctx, viewer, path, format, how);
  const { fileName, mediaType } = exported;
  const { digest, bytes } = await ctx.files.keep(toldAsItGrows(exported.stream, told));
  await changeTakenOut(ctx.work, id, {
    ...{ file_name: fileName, media_type: mediaType, digest, bytes, made_at: new Date() },
  });
  return { fileName, bytes };
}

const TELL_MS = 1_000;

/** Says every second how much is written; a file that was asked to stop ends there. */
function toldAsItGrows(stream: Readable, told: (bytes: number) => Promise<void>): Readable {
  let bytes = 0;
  let next = Date.now() + TELL_MS;
  const counting = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      bytes += chunk.length;
      if (Date.now() < next) return done(null, chunk);
      next = Date.now() + TELL_MS;
      told(bytes).then(
        () => done(null, chunk),
        (error: Error) => done(error),
      );
    },
  });
  stream.on('error', (error) => counting.destroy(error));
  return stream.pipe(counting);
}
