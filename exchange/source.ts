import { createReadStream } from 'node:fs';
import { open, stat } from 'node:fs/promises';
import { Readable, Transform } from 'node:stream';
import { createGunzip } from 'node:zlib';
import { archiveMember, gathered, listArchive, measureWorkbook } from './archive';
import { INNER_WORKBOOK_MAX_BYTES, piped, withRatio } from './limits';
import { UnreadableFile } from './unreadable';

export { UnreadableFile };

const HEAD_BYTES = 256 * 1024;

/** A file as it was delivered, whatever it is packed in. */
export interface Source {
  /** First bytes of the unpacked content. */
  head: Buffer;
  /** Whether the head is all of it. */
  whole: boolean;
  container: 'none' | 'gzip' | 'zip' | 'workbook';
  /** Names of the files in a zip that may hold data. */
  members: string[];
  member: string | null;
  stream(onBytes?: (bytes: number) => void): Promise<Readable>;
}

/** @param member which file of a zip; the only or first one with data if absent @throws UnreadableFile */
export async function openSource(path: string, member?: string): Promise<Source> {
  const file = await open(path);
  const magic = Buffer.alloc(4);
  try {
    await file.read(magic, 0, 4, 0);
  } finally {
    await file.close();
  }
  if (magic[0] === 0x1f && magic[1] === 0x8b) return sourceOf('gzip', [], null, (onBytes) => gunzipped(path, onBytes));
  if (magic.readUInt32BE() === 0x504b0304) return zipSource(path, member);
  return sourceOf('none', [], null, async (onBytes) => counted(createReadStream(path), onBytes));
}

async function sourceOf(
  container: Source['container'],
  members: string[],
  member: string | null,
  stream: Source['stream'],
): Promise<Source> {
  const chunks: Buffer[] = [];
  let size = 0;
  let whole = true;
  const reading = await stream();
  try {
    for await (const chunk of reading) {
      chunks.push(chunk as Buffer);
      size += (chunk as Buffer).length;
      if (size > HEAD_BYTES) {
        whole = false;
        break;
      }
    }
  } catch (error) {
    if (error instanceof UnreadableFile) throw error;
    throw new UnreadableFile(`the file is damaged: ${(error as Error).message}; have it made again`);
  } finally {
    reading.destroy();
  }
  return { head: Buffer.concat(chunks).subarray(0, HEAD_BYTES), whole, container, members, member, stream };
}

async function gunzipped(path: string, onBytes?: (bytes: number) => void): Promise<Readable> {
  const packed = counted(createReadStream(path), onBytes);
  const unzip = createGunzip();
  packed.on('error', (error) => unzip.destroy(error));
  return withRatio(packed.pipe(unzip), (await stat(path)).size);
}

async function zipSource(path: string, wanted?: string): Promise<Source> {
  const entries = await listArchive(path);
  if (entries.some((e) => e.fileName === '[Content_Types].xml')) {
    await measureWorkbook(path, (await stat(path)).size);
    return sourceOf('workbook', [], null, async (onBytes) => counted(createReadStream(path), onBytes));
  }
  const files = entries.filter(
    (e) => !e.fileName.endsWith('/') && /\.(csv|tsv|txt|tab|xml|json|ndjson|jsonl|xlsx|dat)$/i.test(e.fileName),
  );
  const names = files.map((e) => e.fileName);
  const chosen = wanted === undefined ? files[0] : files.find((e) => e.fileName === wanted);
  if (!chosen) {
    throw new UnreadableFile(
      wanted
        ? `the zip holds no file “${wanted}”`
        : 'the zip holds no table: it needs a .csv, .tsv, .txt, .xml, .json or .xlsx file',
    );
  }
  if (!/\.xlsx$/i.test(chosen.fileName))
    return sourceOf('zip', names, chosen.fileName, (onBytes) => archiveMember(path, chosen.fileName, onBytes));
  // A workbook is an archive of its own, and what is in it is counted again.
  const workbook = await gathered(
    await archiveMember(path, chosen.fileName),
    INNER_WORKBOOK_MAX_BYTES,
    `“${chosen.fileName}”`,
  );
  await measureWorkbook(workbook, workbook.length);
  return sourceOf('zip', names, chosen.fileName, async (onBytes) => {
    onBytes?.(chosen.compressedSize);
    return Readable.from([workbook]);
  });
}

function counted(stream: Readable, onBytes?: (bytes: number) => void): Readable {
  if (!onBytes) return stream;
  return piped(
    stream,
    new Transform({
      transform(chunk: Buffer, _encoding, done) {
        onBytes(chunk.length);
        done(null, chunk);
      },
    }),
  );
}
