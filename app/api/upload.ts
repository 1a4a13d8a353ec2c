import { Readable } from 'node:stream';
import busboy from 'busboy';
import { type KeptFile, keepFile } from '@/cases/loads';
import { ProblemError, wrong } from '@/contracts/problem';
import type { Asking } from './answer';

const FILE_MAX = 20 * 1024 ** 3;

/** Streams the upload to disk, whatever its size. */
export async function readUpload({ ctx, request }: Pick<Asking, 'ctx' | 'request'>): Promise<{ file: KeptFile; fields: Record<string, string> }> {
  const type = request.headers.get('content-type') ?? '';
  if (!type.startsWith('multipart/form-data') || !request.body) {
    throw new ProblemError(415, 'Send the file as multipart/form-data, in a field named file');
  }
  const fields: Record<string, string> = {};
  let kept: Promise<KeptFile> | null = null;
  const form = busboy({ headers: { 'content-type': type }, limits: { files: 1, fileSize: FILE_MAX, fields: 20 }, defParamCharset: 'utf8' });
  form.on('field', (name, value) => {
    if (value !== '') fields[name] = value;
  });
  form.on('file', (name, stream, { filename }) => {
    if (name === 'file') kept = keepFile(ctx, (filename || 'file').slice(0, 200), stream);
    else stream.resume();
    kept?.catch(() => {}); // reported below
  });
  await new Promise<void>((resolve, reject) => {
    form.on('close', resolve);
    form.on('error', reject);
    Readable.fromWeb(request.body as never)
      .on('error', reject)
      .pipe(form);
  }).catch((error: Error) => {
    throw new ProblemError(400, `The upload broke off: ${error.message}; send it again`);
  });
  const file = await (kept as Promise<KeptFile> | null);
  if (!file) throw wrong('file', 'the field “file” is missing');
  return { file, fields };
}
