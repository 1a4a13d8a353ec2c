import { open, stat } from 'node:fs/promises';
import { fileTypeFromFile } from 'file-type';

/** What a file is, told by its content; its name counts only where the content is plain text. */
export interface FileKind {
  mediaType: string;
  /** How it can be looked at in place. */
  shows: 'pdf' | 'picture' | 'text' | null;
}

const PICTURES = ['image/png', 'image/jpeg', 'image/webp', 'image/gif'];
/** Spreadsheets, letters and mail as office programs write them, and pictures that browsers do not show. */
const OTHERS = [
  'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
  'application/vnd.oasis.opendocument.spreadsheet',
  'application/vnd.oasis.opendocument.text',
  'application/x-cfb',
  'application/rtf',
  'image/tiff',
  'image/bmp',
  'image/heic',
];
const TEXTS = new Map([
  ['.txt', 'text/plain'],
  ['.csv', 'text/csv'],
  ['.tsv', 'text/tab-separated-values'],
  ['.md', 'text/markdown'],
  ['.json', 'application/json'],
  ['.eml', 'message/rfc822'],
  ['.log', 'text/plain'],
]);
/** So much of a text is looked at to see that it is one. */
const LOOKED_AT = 64 * 1024;

/** @returns null for a file of no kind that is taken: a program, a page that could run something, an archive */
export async function fileKind(path: string, name: string): Promise<FileKind | null> {
  const found = await fileTypeFromFile(path);
  if (found) {
    if (found.mime === 'application/pdf') return { mediaType: found.mime, shows: 'pdf' };
    if (PICTURES.includes(found.mime)) return { mediaType: found.mime, shows: 'picture' };
    return OTHERS.includes(found.mime) ? { mediaType: found.mime, shows: null } : null;
  }
  const ending = /\.[^.]+$/.exec(name.toLowerCase())?.[0] ?? '';
  const mediaType = TEXTS.get(ending);
  if (!mediaType || (await stat(path)).size === 0) return null;
  return (await isText(path)) ? { mediaType, shows: 'text' } : null;
}

async function isText(path: string): Promise<boolean> {
  const file = await open(path);
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(LOOKED_AT), 0, LOOKED_AT, 0);
    // Nothing that is text has a byte of nought; that of other alphabets is read as well as it can be.
    return !buffer.subarray(0, bytesRead).includes(0);
  } finally {
    await file.close();
  }
}

export const showsOf = (mediaType: string): FileKind['shows'] =>
  mediaType === 'application/pdf'
    ? 'pdf'
    : PICTURES.includes(mediaType)
      ? 'picture'
      : [...TEXTS.values()].includes(mediaType)
        ? 'text'
        : null;
