import { createReadStream } from 'node:fs';
import { open, stat } from 'node:fs/promises';
import { type Readable, Transform } from 'node:stream';
import { createGunzip } from 'node:zlib';
import { type Entry, open as openZip, type ZipFile } from 'yauzl';

/** A file that cannot be read at all, with a sentence that says why and what to do. */
export class UnreadableFile extends Error {
  constructor(
    message: string,
    readonly row: number | null = null,
  ) {
    super(message);
  }
}

/** Limits against archives that unfold to far more than a ledger would (decompression bombs). */
export const UNFOLDED_MAX_BYTES = 40 * 1024 ** 3;
const RATIO_MAX = 300;
/** Below this size the ratio says nothing. */
const RATIO_FROM_BYTES = 4 * 1024 ** 2;
const MEMBERS_MAX = 100_000;
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

async function sourceOf(container: Source['container'], members: string[], member: string | null, stream: Source['stream']): Promise<Source> {
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
  return guarded(packed.pipe(unzip), (await stat(path)).size);
}

async function zipSource(path: string, wanted?: string): Promise<Source> {
  const entries = await listZip(path);
  if (entries.some((e) => e.fileName === '[Content_Types].xml')) {
    guardSizes(entries);
    return sourceOf('workbook', [], null, async (onBytes) => counted(createReadStream(path), onBytes));
  }
  guardSizes(entries);
  const files = entries.filter((e) => !e.fileName.endsWith('/') && /\.(csv|tsv|txt|tab|xml|json|ndjson|jsonl|xlsx|dat)$/i.test(e.fileName));
  const names = files.map((e) => e.fileName);
  const chosen = wanted === undefined ? files[0] : files.find((e) => e.fileName === wanted);
  if (!chosen) {
    throw new UnreadableFile(wanted ? `the zip holds no file “${wanted}”` : 'the zip holds no table: it needs a .csv, .tsv, .txt, .xml, .json or .xlsx file');
  }
  return sourceOf('zip', names, chosen.fileName, (onBytes) => zipMember(path, chosen.fileName, onBytes));
}

function guardSizes(entries: readonly Entry[]): void {
  let unfolded = 0;
  let packed = 0;
  for (const e of entries) {
    unfolded += e.uncompressedSize;
    packed += e.compressedSize;
  }
  if (unfolded > UNFOLDED_MAX_BYTES || (unfolded > RATIO_FROM_BYTES && unfolded > packed * RATIO_MAX)) throw bomb();
}

const bomb = (): UnreadableFile => new UnreadableFile('the archive unfolds to far more than its size; it is not opened. Send the file itself');

const openArchive = (path: string): Promise<ZipFile> =>
  new Promise((resolve, reject) =>
    openZip(path, { lazyEntries: true, autoClose: true, validateEntrySizes: true }, (error, zip) =>
      error ? reject(new UnreadableFile(`the zip is damaged: ${error.message.replace(/\.$/, '')}; have it made again`)) : resolve(zip),
    ),
  );

async function listZip(path: string): Promise<Entry[]> {
  const zip = await openArchive(path);
  if (zip.entryCount > MEMBERS_MAX) throw bomb();
  const entries: Entry[] = [];
  return new Promise((resolve, reject) => {
    zip.on('entry', (entry: Entry) => {
      entries.push(entry);
      zip.readEntry();
    });
    zip.on('end', () => resolve(entries));
    zip.on('error', (error: Error) => reject(new UnreadableFile(`the zip is damaged: ${error.message.replace(/\.$/, '')}; have it made again`)));
    zip.readEntry();
  });
}

/** The content of one file of a zip. @throws UnreadableFile if it is not there */
export async function zipMember(path: string, name: string, onBytes?: (bytes: number) => void): Promise<Readable> {
  const zip = await openArchive(path);
  return new Promise((resolve, reject) => {
    zip.on('entry', (entry: Entry) => {
      if (entry.fileName !== name) return zip.readEntry();
      zip.openReadStream(entry, (error, stream) => {
        if (error) return reject(new UnreadableFile(`“${name}” in the zip cannot be read: ${error.message}`));
        // Progress is told in bytes of the packed file, of which the member is a share.
        const share = entry.compressedSize / Math.max(1, entry.uncompressedSize);
        resolve(guarded(counted(stream, onBytes && ((bytes) => onBytes(bytes * share))), entry.compressedSize));
      });
    });
    zip.on('end', () => reject(new UnreadableFile(`the zip holds no file “${name}”`)));
    zip.on('error', reject);
    zip.readEntry();
  });
}

/** Names of all files in a zip, folders left out. */
export const zipNames = async (path: string): Promise<string[]> => (await listZip(path)).map((e) => e.fileName).filter((name) => !name.endsWith('/'));

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

function guarded(stream: Readable, packedBytes: number): Readable {
  let unfolded = 0;
  return piped(
    stream,
    new Transform({
      transform(chunk: Buffer, _encoding, done) {
        unfolded += chunk.length;
        const beyond = unfolded > UNFOLDED_MAX_BYTES || (unfolded > RATIO_FROM_BYTES && unfolded > packedBytes * RATIO_MAX);
        done(beyond ? bomb() : null, beyond ? undefined : chunk);
      },
    }),
  );
}

/** Errors go down the pipe, and closing its end closes its beginning. */
function piped(from: Readable, to: Transform): Transform {
  from.on('error', (error) => to.destroy(error));
  to.on('close', () => from.destroy());
  return from.pipe(to);
}
