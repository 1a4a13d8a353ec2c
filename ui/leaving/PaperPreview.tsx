'use client';

import type { PDFDocumentProxy } from 'pdfjs-dist';
import { useEffect, useRef, useState } from 'react';
import { openPdf } from '../documents/paper/pages';

/** Pages as they will be printed, drawn one at a time. */
export function PaperPreview({ url }: { url: string }) {
  const [pdf, setPdf] = useState<PDFDocumentProxy | null>(null);
  const [page, setPage] = useState(1);
  const [failed, setFailed] = useState<string | null>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const gone = new AbortController();
    setFailed(null);
    openPdf(url, gone.signal).then(
      (opened) => {
        setPdf(opened);
        setPage((at) => Math.min(at, opened.numPages));
      },
      (error: Error) => !gone.signal.aborted && setFailed(error.message),
    );
    return () => gone.abort();
  }, [url]);
  useEffect(() => {
    const at = canvas.current;
    if (!pdf || !at) return;
    let gone = false;
    let drawing: { cancel(): void } | null = null;
    void (async () => {
      const drawn = await pdf.getPage(page);
      if (gone) return;
      const whole = drawn.getViewport({ scale: 1 });
      const scale = Math.min(WIDTH / whole.width, HEIGHT / whole.height);
      const viewport = drawn.getViewport({ scale: scale * window.devicePixelRatio });
      at.width = Math.round(viewport.width);
      at.height = Math.round(viewport.height);
      at.style.width = `${whole.width * scale}px`;
      const task = drawn.render({ canvas: at, viewport });
      drawing = task;
      await task.promise.catch(() => {}); // another page was wanted meanwhile
    })();
    return () => {
      gone = true;
      drawing?.cancel();
    };
  }, [pdf, page]);
  const pages = pdf?.numPages ?? 0;
  return (
    <figure className="flex min-w-0 flex-col items-center gap-2">
      <div className="flex min-h-[300px] items-center justify-center">
        {failed && <p className="text-warn">It cannot be shown beforehand: {failed}</p>}
        {!failed && !pdf && <p className="text-soft">Setting the pages …</p>}
        <canvas
          ref={canvas}
          role="img"
          aria-label={`Page ${page} as it will be printed`}
          className={pdf && !failed ? 'block border border-rule bg-white shadow-sm' : 'hidden'}
        />
      </div>
      {pages > 0 && (
        <figcaption className="flex items-baseline gap-2 text-[12.5px] text-soft">
          <Turn label="Page before" off={page === 1} act={() => setPage(page - 1)}>
            ‹
          </Turn>
          page {page} of {pages}
          <Turn label="Next page" off={page === pages} act={() => setPage(page + 1)}>
            ›
          </Turn>
        </figcaption>
      )}
    </figure>
  );
}

const WIDTH = 500;
const HEIGHT = 500;

const Turn = ({ label, off, act, children }: { label: string; off: boolean; act(): void; children: string }) => (
  <button
    type="button"
    aria-label={label}
    disabled={off}
    onClick={act}
    className="cursor-pointer px-1 disabled:text-faint"
  >
    {children}
  </button>
);
