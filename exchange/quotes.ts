import { createReadStream } from 'node:fs';
import { open } from 'node:fs/promises';

const QUOTE = 34;
const LINE_FEED = 10;
const RETURN = 13;
const PIECE_BYTES = 4 * 1024 ** 2;

/**
 * Whether every quotation mark of a delimited text is where RFC 4180 has it: around a whole field, or doubled within one.
 * A reader that takes what is quoted otherwise as it stands would read what another one refuses.
 * @param path a plain file, of an encoding in which these marks are bytes of their own
 */
export async function quotesAreSound(path: string, delimiter: string, pieceBytes = PIECE_BYTES): Promise<boolean> {
  const divides = delimiter.charCodeAt(0);
  const endsField = (byte: number | undefined): boolean =>
    byte === undefined || byte === divides || byte === LINE_FEED || byte === RETURN;
  let inside = false;
  /** The last byte of what came before; undefined at the beginning. */
  let before: number | undefined;
  /** A mark at the very end of a piece: what follows tells whether it closes the field. */
  let last = false;
  for await (const piece of createReadStream(path, { start: await markOf(path), highWaterMark: pieceBytes })) {
    const bytes = piece as Buffer;
    let at = 0;
    if (last) {
      last = false;
      if (bytes[0] === QUOTE) at = 1;
      else if (endsField(bytes[0])) inside = false;
      else return false;
    }
    for (at = bytes.indexOf(QUOTE, at); at >= 0; at = bytes.indexOf(QUOTE, at)) {
      if (!inside) {
        const former = at === 0 ? before : bytes[at - 1];
        if (!endsField(former)) return false;
        inside = true;
        at += 1;
        continue;
      }
      if (at === bytes.length - 1) {
        last = true;
        break;
      }
      if (bytes[at + 1] === QUOTE) {
        at += 2;
        continue;
      }
      if (!endsField(bytes[at + 1])) return false;
      inside = false;
      at += 1;
    }
    before = bytes[bytes.length - 1];
  }
  return !inside || last;
}

const MARK = Buffer.from([0xef, 0xbb, 0xbf]);

/** Bytes of the mark of an encoding at the beginning of a file, which is no part of its first field. */
async function markOf(path: string): Promise<number> {
  const file = await open(path);
  try {
    const { buffer } = await file.read(Buffer.alloc(MARK.length), 0, MARK.length, 0);
    return buffer.equals(MARK) ? MARK.length : 0;
  } finally {
    await file.close();
  }
}
