import { readFile, stat } from 'node:fs/promises';

/** Larger files, and more text than this, are not read: nobody looks for words in them. */
const BYTES_MAX = 50 * 1024 ** 2;
const TEXT_MAX = 400_000;
const PAGES_MAX = 500;

const PDF = Buffer.from('%PDF-');

/**
 * What a file says: the text of a PDF page by page, or of a file that is text itself. Pictures, and whatever else it may be,
 * say nothing that could be looked for.
 * @returns empty where there is none, or it cannot be read
 */
export async function fileText(path: string): Promise<string> {
  if ((await stat(path)).size > BYTES_MAX) return '';
  const bytes = await readFile(path);
  if (bytes.subarray(0, PDF.length).equals(PDF)) return pdfText(bytes);
  return plainText(bytes);
}

async function pdfText(bytes: Buffer): Promise<string> {
  const { getDocument } = await import('pdfjs-dist/legacy/build/pdf.mjs');
  const opened = getDocument({
    data: new Uint8Array(bytes),
    // Nothing in a file is run, and nothing is fetched for it.
    isEvalSupported: false,
    disableFontFace: true,
    useSystemFonts: false,
    stopAtErrors: false,
    verbosity: 0,
  });
  try {
    const pdf = await opened.promise;
    let text = '';
    for (let number = 1; number <= Math.min(pdf.numPages, PAGES_MAX) && text.length < TEXT_MAX; number++) {
      const { items } = await (await pdf.getPage(number)).getTextContent();
      for (const item of items) if ('str' in item) text += item.hasEOL ? `${item.str}\n` : item.str;
      text += '\n';
    }
    return cleaned(text);
  } catch {
    // A PDF that cannot be read, or that is locked, says nothing.
    return '';
  } finally {
    await opened.destroy();
  }
}

function plainText(bytes: Buffer): string {
  if (bytes.includes(0)) return '';
  try {
    return cleaned(new TextDecoder('utf-8', { fatal: true }).decode(bytes));
  } catch {
    return '';
  }
}

/** The database takes no zero bytes, and nobody looks for the spaces that a layout is made with. */
export const cleaned = (text: string): string =>
  text
    .replaceAll('\0', '')
    .replace(/[ \t\u00a0]+/g, ' ')
    .trim()
    .slice(0, TEXT_MAX);
