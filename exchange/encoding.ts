import { isUtf8 } from 'node:buffer';
import { Transform } from 'node:stream';
import chardet from 'chardet';
import iconv from 'iconv-lite';
import type { Encoding } from '@/contracts/mapping';
import type { Recognised } from './recognised';
import type { Source } from './source';
import { UnreadableFile } from './source';

/** Share of zero bytes on one side from which text counts as UTF-16 without a byte order mark. */
const UTF16_SHARE = 0.3;

/**
 * The encoding of a text: by its byte order mark, by being valid UTF-8, else Windows-1252 or ISO-8859-15, which differ
 * in where the euro sign is and in the range 80 to 9F.
 * @returns null for what is no text
 */
export function recogniseEncoding({ head, whole }: Pick<Source, 'head' | 'whole'>): Recognised<Encoding> | null {
  if (head.length >= 2 && head[0] === 0xff && head[1] === 0xfe)
    return { value: 'utf-16le', doubt: 'none', why: 'byte order mark' };
  if (head.length >= 2 && head[0] === 0xfe && head[1] === 0xff)
    return { value: 'utf-16be', doubt: 'none', why: 'byte order mark' };
  if (head.length >= 3 && head[0] === 0xef && head[1] === 0xbb && head[2] === 0xbf)
    return { value: 'utf-8', doubt: 'none', why: 'byte order mark' };
  if (head.includes(0)) return utf16WithoutMark(head);
  if (isUtf8(whole ? head : withoutCutCharacter(head))) {
    return { value: 'utf-8', doubt: 'none', why: 'every byte sequence is valid UTF-8' };
  }
  const controls = head.some((b) => b < 9 || (b > 13 && b < 32 && b !== 27));
  if (controls) return null;
  if (head.some((b) => b >= 0x80 && b <= 0x9f))
    return { value: 'windows-1252', doubt: 'none', why: 'bytes between 80 and 9F are letters and signs there' };
  if (head.includes(0xa4)) return { value: 'iso-8859-15', doubt: 'likely', why: 'byte A4 is the euro sign there' };
  const likely = chardet.analyse(head).find((m) => /^(windows-1252|iso-8859-1|iso-8859-15)$/i.test(m.name));
  return {
    value: 'windows-1252',
    doubt: (likely?.confidence ?? 0) > 50 ? 'none' : 'likely',
    why: 'single bytes above A0; ISO-8859-15 reads them alike',
  };
}

function utf16WithoutMark(head: Buffer): Recognised<Encoding> | null {
  let even = 0;
  let odd = 0;
  for (let i = 0; i < head.length; i++) if (head[i] === 0) i % 2 === 0 ? even++ : odd++;
  const half = head.length / 2;
  if (odd > half * UTF16_SHARE && even < odd / 10)
    return { value: 'utf-16le', doubt: 'likely', why: 'every second byte is zero' };
  if (even > half * UTF16_SHARE && odd < even / 10)
    return { value: 'utf-16be', doubt: 'likely', why: 'every second byte is zero' };
  return null;
}

/** A buffer cut anywhere may end within a character of up to four bytes. */
function withoutCutCharacter(head: Buffer): Buffer {
  for (let cut = 0; cut < 4; cut++) {
    const shorter = head.subarray(0, head.length - cut);
    if (isUtf8(shorter)) return shorter;
  }
  return head;
}

export const decodeHead = (head: Buffer, encoding: Encoding): string =>
  iconv.decode(head, encoding, { stripBOM: true });

/** Bytes to text. UTF-8 is checked: a byte that is none ends the reading, since it would be shown as something else. */
export function decoding(encoding: Encoding): Transform {
  if (encoding !== 'utf-8') return iconv.decodeStream(encoding, { stripBOM: true }) as unknown as Transform;
  const decoder = new TextDecoder('utf-8', { fatal: true });
  let at = 0;
  const decode = (chunk: Buffer | undefined): string => {
    try {
      return decoder.decode(chunk, { stream: chunk !== undefined });
    } catch {
      throw new UnreadableFile(
        `the file is not in UTF-8 all through (near byte ${at}); choose its encoding, such as Windows-1252`,
      );
    }
  };
  return new Transform({
    decodeStrings: true,
    encoding: 'utf-8',
    transform(chunk: Buffer, _encoding, done) {
      try {
        const text = decode(chunk);
        at += chunk.length;
        done(null, text);
      } catch (error) {
        done(error as Error);
      }
    },
    flush(done) {
      try {
        done(null, decode(undefined));
      } catch (error) {
        done(error as Error);
      }
    },
  });
}
