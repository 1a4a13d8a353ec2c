'use client';

import type { PDFDocumentProxy } from 'pdfjs-dist';
import { useCallback, useEffect, useLayoutEffect, useRef, useState } from 'react';
import type { Sought } from '@/core/markedText';
import { countText } from '../../amounts';
import { type MarkedPlace, openPdf, placesOn } from './pages';
import { foundOn, onTurn, type Standing, type Turn, turned } from './turning';

/** A file by what it is called and what it holds. */
interface File {
  name: string;
  digest: string;
}

const PICTURE = /\.(png|jpe?g)$/i;
const PDF = /\.pdf$/i;
const ZOOMS = [1, 1.25, 1.5, 2, 3] as const;
/** So many pages are looked through for what is sought. */
const PAGES_SOUGHT = 60;
/** Who walks from paper to paper reads them all as large as the one before. */
let zoomKept = 0;

/** A scan as it is, page by page, with what is sought on it marked. Its pages turn and grow by keys as well. */
export function PaperShown({ file, sought, height }: { file: File; sought: Sought; height: string }) {
  const [standing, setStanding] = useState<Standing>({ page: 1, turned: false });
  const { page } = standing;
  const [pages, setPages] = useState(1);
  const [zoom, setZoom] = useState(zoomKept);
  useEffect(() => {
    zoomKept = zoom;
  }, [zoom]);
  const [found, setFound] = useState<number[] | null>(null);
  const turn = useCallback(
    (way: Turn): void => {
      if (way === 'next') setStanding((at) => turned(at, 1, pages));
      else if (way === 'previous') setStanding((at) => turned(at, -1, pages));
      else setZoom((at) => Math.min(ZOOMS.length - 1, Math.max(0, at + (way === 'larger' ? 1 : -1))));
    },
    [pages],
  );
  useEffect(() => onTurn(turn), [turn]);
  const marked = useCallback((counts: number[]) => {
    setFound(counts);
    setStanding((at) => foundOn(at, counts));
  }, []);
  // What is sought on the same paper for another line is turned to anew.
  const wanted = JSON.stringify(sought);
  // biome-ignore lint/correctness/useExhaustiveDependencies: it is the change of what is sought that counts
  useEffect(() => setStanding((at) => ({ ...at, turned: false })), [wanted]);
  const url = `/api/v1/attachments/${file.digest}?show=yes`;
  const all = found?.reduce((sum, count) => sum + count, 0) ?? 0;
  return (
    <figure className="flex min-h-0 flex-1 flex-col">
      <figcaption className="mb-1 flex flex-wrap items-baseline gap-x-3 text-[12.5px] text-soft">
        <span className="min-w-0 truncate">{file.name}</span>
        {pages > 1 && (
          <span className="flex gap-1.5">
            <Turning label="Page before" sign="‹" off={page === 1} act={() => turn('previous')} />
            page {page} of {countText(pages)}
            <Turning label="Next page" sign="›" off={page === pages} act={() => turn('next')} />
          </span>
        )}
        <span className="flex gap-1.5">
          <Turning label="Smaller" sign="−" off={zoom === 0} act={() => turn('smaller')} />
          {Math.round(100 * (ZOOMS[zoom] ?? 1))} %
          <Turning label="Larger" sign="+" off={zoom === ZOOMS.length - 1} act={() => turn('larger')} />
        </span>
        {PDF.test(file.name) && found !== null && (
          <span aria-live="polite">
            {all === 0 ? 'nothing of it is found in its text' : `${countText(all)} marked${onPages(found)}`}
          </span>
        )}
        <a
          href={`/api/v1/attachments/${file.digest}`}
          className="ml-auto underline decoration-rule underline-offset-4 hover:decoration-ink"
        >
          save
        </a>
      </figcaption>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what is larger than its frame is moved about by keys */}
      <div tabIndex={0} className={`overflow-auto border border-rule bg-sheet ${height}`}>
        {PDF.test(file.name) ? (
          <PdfPage
            url={url}
            name={file.name}
            page={page}
            zoom={ZOOMS[zoom] ?? 1}
            sought={sought}
            onOpened={setPages}
            onMarked={marked}
          />
        ) : PICTURE.test(file.name) ? (
          // biome-ignore lint/performance/noImgElement: a scan is shown as it is, not made smaller by a server
          <img src={url} alt={file.name} style={{ width: `${100 * (ZOOMS[zoom] ?? 1)}%`, maxWidth: 'none' }} />
        ) : (
          <p className="p-4 text-soft">This file cannot be shown here. Save it to look at it.</p>
        )}
      </div>
    </figure>
  );
}

const onPages = (found: readonly number[]): string => {
  const pages = found.flatMap((count, i) => (count > 0 ? [i + 1] : []));
  return found.length > 1 ? ` on page ${pages.join(', ')}` : '';
};

const Turning = ({ label, sign, off, act }: { label: string; sign: string; off: boolean; act(): void }) => (
  <button
    type="button"
    aria-label={label}
    title={label}
    disabled={off}
    onClick={act}
    className="w-5 cursor-pointer border border-rule bg-sheet text-center leading-[16px] text-ink hover:border-ink disabled:cursor-default disabled:text-faint disabled:hover:border-rule"
  >
    {sign}
  </button>
);

/** One page of a PDF, drawn as wide as there is room. */
function PdfPage({
  url,
  name,
  page,
  zoom,
  sought,
  onOpened,
  onMarked,
}: {
  url: string;
  name: string;
  page: number;
  zoom: number;
  sought: Sought;
  onOpened(pages: number): void;
  onMarked(counts: number[]): void;
}) {
  const [pdf, setPdf] = useState<PDFDocumentProxy | null>(null);
  const [failed, setFailed] = useState(false);
  const [places, setPlaces] = useState<MarkedPlace[][]>([]);
  const box = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [width, setWidth] = useState(0);

  useEffect(() => {
    const gone = new AbortController();
    setPdf(null);
    setFailed(false);
    openPdf(url, gone.signal).then(
      (opened) => {
        if (gone.signal.aborted) return;
        setPdf(opened);
        onOpened(opened.numPages);
      },
      () => gone.signal.aborted || setFailed(true),
    );
    return () => gone.abort();
  }, [url, onOpened]);

  const wanted = JSON.stringify(sought);
  useEffect(() => {
    if (!pdf) return;
    let gone = false;
    const of = JSON.parse(wanted) as Sought;
    const numbers = Array.from({ length: Math.min(pdf.numPages, PAGES_SOUGHT) }, (_, i) => i + 1);
    Promise.all(numbers.map((number) => placesOn(pdf, number, of))).then(
      (all) => {
        if (gone) return;
        setPlaces(all);
        onMarked(all.map((on) => on.length));
      },
      () => {}, // a page without readable text says nothing
    );
    return () => {
      gone = true;
    };
  }, [pdf, wanted, onMarked]);

  useLayoutEffect(() => {
    const outer = box.current?.parentElement;
    if (!outer) return;
    const measured = new ResizeObserver(() => setWidth(outer.clientWidth));
    measured.observe(outer);
    return () => measured.disconnect();
  }, []);

  useEffect(() => {
    const at = canvas.current;
    if (!pdf || !at || width === 0) return;
    let drawing: { cancel(): void } | null = null;
    let gone = false;
    void (async () => {
      const drawn = await pdf.getPage(page);
      if (gone) return;
      const sharp = window.devicePixelRatio || 1;
      const viewport = drawn.getViewport({
        scale: ((width * zoom) / drawn.getViewport({ scale: 1 }).width) * sharp,
      });
      at.width = Math.round(viewport.width);
      at.height = Math.round(viewport.height);
      at.style.width = `${width * zoom}px`;
      const task = drawn.render({ canvas: at, viewport });
      drawing = task;
      await task.promise.catch(() => {}); // another page was wanted meanwhile
    })();
    return () => {
      gone = true;
      drawing?.cancel();
    };
  }, [pdf, page, zoom, width]);

  return (
    <div ref={box} className="relative inline-block align-top">
      {failed && <p className="p-4 text-warn">This file cannot be read as a PDF. Save it to look at it.</p>}
      {!pdf && !failed && <p className="p-4 text-soft">Opening {name} …</p>}
      <canvas ref={canvas} role="img" aria-label={`${name}, page ${page}`} className={pdf ? 'block' : 'hidden'} />
      {pdf &&
        (places[page - 1] ?? []).map((place) => (
          <span
            key={`${place.left}/${place.top}`}
            data-marked
            className="pointer-events-none absolute border-b-2 border-thread bg-thread/15"
            style={{
              left: `${100 * place.left}%`,
              top: `${100 * place.top}%`,
              width: `${100 * place.width}%`,
              height: `${100 * place.height}%`,
            }}
          />
        ))}
    </div>
  );
}
