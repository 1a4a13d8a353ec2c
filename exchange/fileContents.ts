import { readFile, stat } from 'node:fs/promises';
import type { Readable } from 'node:stream';
import { convert } from 'html-to-text';
import { simpleParser } from 'mailparser';
import { SaxesParser } from 'saxes';
import type { FileContents } from '@/contracts/work';
import { archiveMember } from './archive';
import { sheetsShown } from './rows';
import { openSource, UnreadableFile } from './source';

/** More of a sheet, of sheets and of a letter than this is not shown in place. */
const ROWS_MAX = 300;
const COLUMNS_MAX = 40;
const SHEETS_MAX = 12;
const CELL_LETTERS = 300;
const LETTERS_MAX = 200_000;
const MAIL_BYTES_MAX = 30 * 1024 ** 2;

/** Of a page only its words are wanted: where links and pictures of it lead is not. */
const NO_LINKS = [
  { selector: 'a', options: { ignoreHref: true } },
  { selector: 'img', format: 'skip' },
];

const SHEET = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
const LETTER = 'application/vnd.openxmlformats-officedocument.wordprocessingml.document';
const OPEN_LETTER = 'application/vnd.oasis.opendocument.text';
const MAIL = 'message/rfc822';

/** Kinds of files whose contents can be shown, beside those that a browser shows itself. */
export const READABLE = [SHEET, LETTER, OPEN_LETTER, MAIL];

/**
 * What a spreadsheet (ECMA-376), a letter (ECMA-376, ISO 26300) or a mail (RFC 5322, RFC 2045) holds, as plain rows and
 * words: nothing in it is run, no formula worked out, no link followed, no picture fetched. Whatever unfolds is counted
 * while it does. Done by a worker's process, which may be ended.
 */
export async function fileContents(path: string, mediaType: string): Promise<FileContents> {
  try {
    switch (mediaType) {
      case SHEET:
        return await sheetsIn(path);
      case LETTER:
        return await letterIn(await archiveMember(path, 'word/document.xml'), ['w:p'], ['w:t'], ['w:tab']);
      case OPEN_LETTER:
        return await letterIn(await archiveMember(path, 'content.xml'), ['text:p', 'text:h'], null, [
          'text:tab',
          'text:s',
        ]);
      case MAIL:
        return await mailIn(path);
      default:
        return { is: 'nothing', why: 'Files of this kind are not shown here; save it to look at it.' };
    }
  } catch (error) {
    const why = error instanceof UnreadableFile ? error.message : 'it is damaged, or locked with a password';
    return { is: 'nothing', why: `It cannot be shown: ${why}. It is kept as it came; save it to look at it.` };
  }
}

async function sheetsIn(path: string): Promise<FileContents> {
  const sheets = await sheetsShown(await openSource(path), {
    rows: ROWS_MAX,
    columns: COLUMNS_MAX,
    sheets: SHEETS_MAX,
  });
  const cut = (cell: string): string => (cell.length > CELL_LETTERS ? `${cell.slice(0, CELL_LETTERS)} …` : cell);
  return { is: 'sheets', sheets: sheets.map((s) => ({ ...s, rows: s.rows.map((row) => row.map(cut)) })) };
}

/** Enough was read, and the rest is left. */
class Enough extends Error {}

/**
 * The words of a letter, paragraph by paragraph.
 * @param wordTags where words stand; null: anywhere in a paragraph
 */
async function letterIn(
  xml: Readable,
  paragraphTags: readonly string[],
  wordTags: readonly string[] | null,
  spaceTags: readonly string[],
): Promise<FileContents> {
  const parser = new SaxesParser();
  const paragraphs: string[] = [];
  let words = '';
  let inWords = 0;
  let inParagraph = 0;
  let letters = 0;
  parser.on('opentag', ({ name }) => {
    if (paragraphTags.includes(name)) inParagraph += 1;
    if (wordTags?.includes(name)) inWords += 1;
    if (spaceTags.includes(name)) words += ' ';
  });
  parser.on('text', (text) => {
    if (wordTags === null ? inParagraph > 0 : inWords > 0) words += text;
  });
  parser.on('closetag', ({ name }) => {
    if (wordTags?.includes(name)) inWords -= 1;
    if (!paragraphTags.includes(name)) return;
    inParagraph -= 1;
    paragraphs.push(words);
    letters += words.length;
    words = '';
    if (letters > LETTERS_MAX) throw new Enough();
  });
  parser.on('error', (error) => {
    throw new UnreadableFile(`it is damaged: ${error.message}`);
  });
  const decoder = new TextDecoder('utf-8', { fatal: true });
  let more = false;
  try {
    for await (const chunk of xml) parser.write(decoder.decode(chunk as Buffer, { stream: true }));
    parser.write(decoder.decode()).close();
  } catch (error) {
    if (!(error instanceof Enough)) throw error;
    more = true;
    xml.destroy();
  }
  return { is: 'letter', text: paragraphs.join('\n'), more };
}

async function mailIn(path: string): Promise<FileContents> {
  if ((await stat(path)).size > MAIL_BYTES_MAX) throw new UnreadableFile('the mail is too large to be shown');
  // Pictures of a mail that is a page are not fetched, and no link of it is looked at.
  const mail = await simpleParser(await readFile(path), { skipImageLinks: true, skipTextLinks: true });
  const to = [mail.to ?? []].flat().map((a) => a.text);
  // A mail that is a page alone says the words of it; tags and what is run are no words.
  const text = mail.text ?? (mail.html ? convert(mail.html, { wordwrap: false, selectors: NO_LINKS }) : '');
  return {
    is: 'mail',
    from: mail.from?.text ?? '',
    to: to.join(', '),
    subject: mail.subject ?? '',
    at: mail.date?.toISOString() ?? null,
    text: text.slice(0, LETTERS_MAX),
    more: text.length > LETTERS_MAX,
    attached: mail.attachments.map((a) => ({ name: a.filename ?? a.contentType, bytes: a.size })),
  };
}

/** The same as words alone, to be found by. */
export function wordsOfContents(contents: FileContents): string {
  switch (contents.is) {
    case 'sheets':
      return contents.sheets.flatMap((s) => [s.name, ...s.rows.map((row) => row.join(' '))]).join('\n');
    case 'letter':
      return contents.text;
    case 'mail':
      return [
        contents.from,
        contents.to,
        contents.subject,
        contents.text,
        ...contents.attached.map((a) => a.name),
      ].join('\n');
    case 'nothing':
      return '';
  }
}
