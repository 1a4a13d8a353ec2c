import type { Readable } from 'node:stream';
import { type Entry, fromBuffer, open as openZip, type ZipFile } from 'yauzl';
import { bomb, CELL_MAX, checkRatio, SHARED_TEXTS_MAX_BYTES, WORKBOOK_RATIO_MAX, withRatio } from './limits';
import { UnreadableFile } from './unreadable';

/** Archives (PKWARE's APPNOTE) and the workbooks that are ones (ECMA-376), looked into without believing what they say of themselves. */
const MEMBERS_MAX = 10_000;

/** An archive on disk, or one that is within another and was unfolded. */
export type Packed = string | Buffer;

const damaged = (error: Error): UnreadableFile =>
  new UnreadableFile(`the zip is damaged: ${error.message.replace(/\.$/, '')}; have it made again`);

const openArchive = (packed: Packed): Promise<ZipFile> =>
  new Promise((resolve, reject) => {
    // What an entry says of its size is checked against what comes, by us.
    const options = { lazyEntries: true, autoClose: true, validateEntrySizes: true };
    const opened = (error: Error | null, zip: ZipFile): void => (error ? reject(damaged(error)) : resolve(zip));
    if (typeof packed === 'string') openZip(packed, options, opened);
    else fromBuffer(packed, options, opened);
  });

/** Everything that an archive says it holds. @throws UnreadableFile */
export async function listArchive(packed: Packed): Promise<Entry[]> {
  const zip = await openArchive(packed);
  if (zip.entryCount > MEMBERS_MAX) throw bomb();
  const entries: Entry[] = [];
  return new Promise((resolve, reject) => {
    zip.on('entry', (entry: Entry) => {
      entries.push(entry);
      if (entries.length > MEMBERS_MAX) return reject(bomb());
      zip.readEntry();
    });
    zip.on('end', () => resolve(entries));
    zip.on('error', (error: Error) => reject(damaged(error)));
    zip.readEntry();
  });
}

/** Names of all files in an archive, folders left out. */
export const archiveNames = async (packed: Packed): Promise<string[]> =>
  (await listArchive(packed)).map((e) => e.fileName).filter((name) => !name.endsWith('/'));

/** The content of one file of an archive, counted while it unfolds. @throws UnreadableFile if it is not there */
export async function archiveMember(
  packed: Packed,
  name: string,
  onPacked?: (bytes: number) => void,
): Promise<Readable> {
  const zip = await openArchive(packed);
  return new Promise((resolve, reject) => {
    zip.on('entry', (entry: Entry) => {
      if (entry.fileName !== name) return zip.readEntry();
      zip.openReadStream(entry, (error, stream) => {
        if (error) return reject(new UnreadableFile(`“${name}” in the zip cannot be read: ${error.message}`));
        // Progress is told in bytes of the packed file, of which the member is a share.
        const share = entry.compressedSize / Math.max(1, entry.uncompressedSize);
        stream.on('data', (chunk: Buffer) => onPacked?.(chunk.length * share));
        stream.pause();
        resolve(withRatio(stream, entry.compressedSize));
      });
    });
    zip.on('end', () => reject(new UnreadableFile(`the zip holds no file “${name}”`)));
    zip.on('error', (error: Error) => reject(damaged(error)));
    zip.readEntry();
  });
}

/** What of a workbook is read into memory whole. */
const HELD = /^xl\/(sharedStrings|styles|workbook)\.xml$|^xl\/_rels\/|^\[Content_Types\]\.xml$/;
const LESS = 60; // <
const STRIDE_BYTES = 8 * 1024;
/** As much of a sheet as one row may take, and what may be behind the last. */
const ROW_MAX_BYTES = 24 * 1024 ** 2;

/**
 * Unfolds every part of a workbook once, keeping nothing, and looks at what it is made of: the reader of workbooks holds a
 * cell and a row in memory whatever their size, and unfolds whatever it is given.
 * @throws UnreadableFile where a part unfolds to far more than its size, or has texts or rows that no ledger has
 */
export async function measureWorkbook(packed: Packed, bytes: number): Promise<void> {
  let unfolded = 0;
  checkNothingHidden(await listArchive(packed), bytes);
  const zip = await openArchive(packed);
  await new Promise<void>((resolve, reject) => {
    const fail = (error: Error): void => {
      zip.close();
      reject(error instanceof UnreadableFile ? error : damaged(error));
    };
    zip.on('error', fail);
    zip.on('end', () => resolve());
    zip.on('entry', (entry: Entry) => {
      if (entry.fileName.endsWith('/')) return zip.readEntry();
      zip.openReadStream(entry, (error, stream) => {
        if (error) return fail(error);
        const isXml = /\.(xml|rels)$/i.test(entry.fileName);
        const look = markup(entry.fileName);
        let held = 0;
        stream.on('data', (chunk: Buffer) => {
          try {
            unfolded += chunk.length;
            checkRatio(unfolded, bytes, WORKBOOK_RATIO_MAX);
            held += HELD.test(entry.fileName) ? chunk.length : 0;
            if (held > SHARED_TEXTS_MAX_BYTES)
              throw new UnreadableFile(
                `the workbook keeps more than ${SHARED_TEXTS_MAX_BYTES / 1024 ** 2} MB of texts; save the sheet as CSV`,
              );
            if (isXml) look(chunk);
          } catch (fault) {
            stream.destroy();
            fail(fault as Error);
          }
        });
        stream.on('error', fail);
        stream.on('end', () => zip.readEntry());
      });
    });
    zip.readEntry();
  });
}

/** What is before and between the parts beside what their list accounts for: their local headers' further fields. */
const SLACK_BYTES = 1_024;
const LOCAL_HEADER_BYTES = 30;
const LISTED_BYTES = 46;
const END_BYTES = 22 + 20 + 56;

/**
 * The reader of workbooks goes from part to part, the list of parts is at the end: a part that the list leaves out
 * would be read and never have been measured. @throws UnreadableFile
 */
function checkNothingHidden(entries: readonly Entry[], bytes: number): void {
  const parts = [...entries].sort((a, b) => a.relativeOffsetOfLocalHeader - b.relativeOffsetOfLocalHeader);
  let at = 0;
  for (const { relativeOffsetOfLocalHeader: from, fileNameLength, compressedSize } of parts) {
    if (from - at > SLACK_BYTES) throw hidden();
    at = from + LOCAL_HEADER_BYTES + fileNameLength + compressedSize;
  }
  const list = entries.reduce(
    (sum, e) => sum + LISTED_BYTES + e.fileNameLength + e.extraFieldLength + e.fileCommentLength,
    END_BYTES,
  );
  if (bytes - list - at > SLACK_BYTES) throw hidden();
}

const hidden = (): UnreadableFile =>
  new UnreadableFile('the workbook holds parts that its list leaves out; save it as .xlsx again');

/**
 * Looks for tags at a stride: where none is in so many pieces one after the other, a text between two tags is longer
 * than a cell's; where no row begins in as much of a sheet as a row may take, the row has no end.
 */
function markup(name: string): (chunk: Buffer) => void {
  // Five bytes to a character, as an entity is written.
  const most = CELL_MAX * 5;
  const isSheet = /worksheets\//.test(name);
  let withoutTag = 0;
  let withoutRow = 0;
  return (chunk) => {
    for (let at = 0; at < chunk.length; at += STRIDE_BYTES) {
      const end = Math.min(chunk.length, at + STRIDE_BYTES);
      const tag = chunk.indexOf(LESS, at);
      withoutTag = tag >= 0 && tag < end ? 0 : withoutTag + end - at;
      if (withoutTag > most)
        throw new UnreadableFile(
          `a cell of the workbook has more than ${CELL_MAX.toLocaleString('en')} characters; it is no ledger, or it is damaged`,
        );
    }
    const row = isSheet ? chunk.lastIndexOf('<row') : 0;
    withoutRow = row >= 0 ? chunk.length - row : withoutRow + chunk.length;
    if (isSheet && withoutRow > ROW_MAX_BYTES)
      throw new UnreadableFile('a row of the workbook has no end; save it as .xlsx again');
  };
}

/** All of a stream that is short enough. @throws UnreadableFile */
export async function gathered(stream: Readable, most: number, what: string): Promise<Buffer> {
  const chunks: Buffer[] = [];
  let bytes = 0;
  for await (const chunk of stream) {
    bytes += (chunk as Buffer).length;
    if (bytes > most)
      throw new UnreadableFile(
        `${what} is larger than ${Math.round(most / 1024 ** 2)} MB within the zip; send it by itself`,
      );
    chunks.push(chunk as Buffer);
  }
  return Buffer.concat(chunks);
}
