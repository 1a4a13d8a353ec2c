import { Readable } from 'node:stream';
import busboy from 'busboy';
import type { Context } from '@/cases/asking/context';
import type { Viewer } from '@/cases/asking/viewer';
import { type KeptFile, keepUpload } from '@/cases/loads/keptFiles';
import { ProblemError, wrong } from '@/contracts/problem';

const FILE_MAX = 20 * 1024 ** 3;
const FIELD_MAX = 128 * 1024;

/** Streams the upload to disk, whatever its size. What goes wrong on the way is answered at once, and the rest is not read. */
export async function readUpload({
  ctx,
  viewer,
  request,
  keep = (name, content) => keepUpload(ctx, viewer, name, content),
}: {
  ctx: Context;
  viewer: Viewer;
  request: Request;
  /** What becomes of the file; by default it is kept to be loaded. */
  keep?: (name: string, content: Readable) => Promise<KeptFile>;
}): Promise<{ file: KeptFile; fields: Record<string, string> }> {
  const type = request.headers.get('content-type') ?? '';
  if (!type.startsWith('multipart/form-data') || !request.body) {
    throw new ProblemError(415, 'Send the file as multipart/form-data, in a field named file');
  }
  const fields: Record<string, string> = Object.create(null);
  const form = busboy({
    headers: { 'content-type': type },
    limits: { files: 1, fileSize: FILE_MAX, fields: 20, fieldSize: FIELD_MAX },
    defParamCharset: 'utf8',
  });
  let kept: Promise<KeptFile> | null = null;
  const body = Readable.fromWeb(request.body as never);
  await new Promise<void>((resolve, reject) => {
    form.on('field', (name, value, { valueTruncated }) => {
      if (valueTruncated) return reject(wrong(name, `the field “${name}” is too long`));
      if (value !== '') fields[name] = value;
    });
    form.on('file', (name, stream, { filename }) => {
      if (name !== 'file') return void stream.resume();
      stream.on('limit', () => stream.destroy(new ProblemError(413, 'The file is too large; it has at most 20 GB')));
      kept = keep((filename || 'file').slice(0, 200), stream);
      // A disk that is full is told now, not when all has been sent.
      kept.catch(reject);
    });
    form.on('close', resolve);
    form.on('error', (error: Error) => reject(brokeOff(error)));
    body.on('error', (error: Error) => reject(brokeOff(error)));
    body.pipe(form);
  }).catch((error: unknown) => {
    body.unpipe(form);
    body.destroy();
    form.destroy();
    throw error;
  });
  const file = await (kept as Promise<KeptFile> | null);
  if (!file) throw wrong('file', 'the field “file” is missing');
  return { file, fields };
}

const brokeOff = (error: Error): ProblemError =>
  new ProblemError(400, `The upload broke off: ${error.message}; send it again`);
