import type { PDFDocumentProxy } from 'pdfjs-dist';
import { markedIn, type Sought } from '@/core/markedText';

/** Where what draws PDF keeps its worker, fonts and tables: brought there when the application is built. */
const ASSETS = '/pdf';

/** Opens a PDF of ours. Nothing in it is run, and nothing is fetched for it from elsewhere. */
export async function openPdf(url: string, signal: AbortSignal): Promise<PDFDocumentProxy> {
  const pdfjs = await import('pdfjs-dist');
  pdfjs.GlobalWorkerOptions.workerSrc = `${ASSETS}/pdf.worker.min.mjs`;
  const opening = pdfjs.getDocument({
    url,
    isEvalSupported: false,
    useSystemFonts: false,
    standardFontDataUrl: `${ASSETS}/standard_fonts/`,
    cMapUrl: `${ASSETS}/cmaps/`,
    wasmUrl: `${ASSETS}/wasm/`,
    useWasm: false,
    verbosity: 0,
  });
  signal.addEventListener('abort', () => void opening.destroy(), { once: true });
  return opening.promise;
}

/** A place on a page where something stands that was sought: in parts of the page's width and height. */
export interface MarkedPlace {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** A piece of text on a page, as a PDF has it: often a word, a letter, or only a space. */
interface Piece {
  str: string;
  width: number;
  height: number;
  x: number;
  y: number;
  /** Where its text begins in that of its run. */
  at: number;
}

/** Pieces that stand one after the other on a line, and read as one text. */
interface Run {
  text: string;
  pieces: Piece[];
}

/** So much room, in heights of the letters, is a space; and so much is another column. */
const SPACE = 0.15;
const COLUMN = 1.8;

function runsOf(pieces: readonly Omit<Piece, 'at'>[]): Run[] {
  const runs: Run[] = [];
  for (const piece of pieces) {
    if (piece.str === '') continue;
    const run = runs.at(-1);
    const last = run?.pieces.at(-1);
    const height = piece.height || last?.height || 1;
    const room = last ? piece.x - (last.x + last.width) : 0;
    const goesOn = last && Math.abs(last.y - piece.y) < height / 2 && room > -height && room < COLUMN * height;
    if (!run || !goesOn) {
      runs.push({ text: piece.str, pieces: [{ ...piece, at: 0 }] });
      continue;
    }
    const spaced = room > SPACE * height && !/\s$/.test(run.text) && !/^\s/.test(piece.str);
    run.text += spaced ? ' ' : '';
    run.pieces.push({ ...piece, at: run.text.length });
    run.text += piece.str;
  }
  return runs;
}

/** Where on a page stands what is sought. */
export async function placesOn(pdf: PDFDocumentProxy, number: number, sought: Sought): Promise<MarkedPlace[]> {
  const page = await pdf.getPage(number);
  const view = page.getViewport({ scale: 1 });
  const { items } = await page.getTextContent();
  const pieces = items.flatMap((item) => {
    if (!('str' in item)) return [];
    const [, , , , x = 0, y = 0] = item.transform as number[];
    return [{ str: item.str, width: item.width, height: item.height, x, y }];
  });
  return runsOf(pieces).flatMap((run) =>
    markedIn(run.text, sought).flatMap(({ from, to }) => {
      const first = run.pieces.findLast((piece) => piece.at <= from);
      const last = run.pieces.findLast((piece) => piece.at < to);
      if (!first || !last) return [];
      const height = Math.max(first.height, last.height);
      const [left, bottom] = view.convertToViewportPoint(along(first, from), first.y - height * BELOW);
      const [right, top] = view.convertToViewportPoint(along(last, to), last.y + height * ABOVE);
      return [
        {
          left: Math.min(left, right) / view.width,
          top: Math.min(top, bottom) / view.height,
          width: Math.abs(right - left) / view.width,
          height: Math.abs(bottom - top) / view.height,
        },
      ];
    }),
  );
}

/** How far below and above the line that it stands on a text reaches, of its height. */
const BELOW = 0.3;
const ABOVE = 1;

/** Where a character of a piece begins: its letters are taken to be equally wide. */
const along = ({ x, width, str, at }: Piece, character: number): number =>
  x + width * Math.min(1, (character - at) / str.length);
