import {
  type Bundle,
  type BundledLine,
  entryOf,
  heldParts,
  linesOn,
  partsOn,
  performed,
  type Way,
} from '@/core/bundle';
import { checkFiles, unzipped } from './checked';

/** What the page asks: each figure worked out again, what a way leads to, its parts, an entry, all of its files. */
export type Asked =
  | { ask: 'begin'; bundle: string }
  | { ask: 'perform'; figure: number }
  | { ask: 'lines'; figure: number; way: Way; most: number }
  | { ask: 'parts'; figure: number; way: Way; by: string }
  | { ask: 'entry'; entity: string; entry: string }
  /** The bundle as a whole: its ZIP, or the files of its folder. */
  | { ask: 'check'; zip: ArrayBuffer }
  | { ask: 'check'; files: [path: string, content: ArrayBuffer][] };

/** What the worker wants of the page, which alone can bring lines in: a part of them. */
export interface Wanted {
  part: number;
}
/** What the page brings. */
export type Brought = { part: number; lines: string } | { part: number; failed: string };

let bundle: Bundle | null = null;
const waiting = new Map<number, { done(lines: BundledLine[]): void; failed(error: Error): void }>();
const partAt = heldParts(
  (part) =>
    new Promise((done, failed) => {
      waiting.set(part, { done, failed });
      self.postMessage({ part } satisfies Wanted);
    }),
);

/** The core of the installation, working on what is inside alone. */
async function answer(asked: Asked): Promise<unknown> {
  if (asked.ask === 'begin') {
    bundle = JSON.parse(asked.bundle) as Bundle;
    return null;
  }
  if (asked.ask === 'check')
    return checkFiles(
      'zip' in asked
        ? unzipped(new Uint8Array(asked.zip))
        : new Map(asked.files.map(([path, content]) => [path, new Uint8Array(content)])),
    );
  if (!bundle) throw new Error('there is nothing inside');
  if (asked.ask === 'entry') return entryOf(bundle, asked, partAt);
  const figure = bundle.figures[asked.figure];
  if (!figure) throw new Error('there is no such figure inside');
  if (asked.ask === 'perform') return performed(figure, partAt);
  if (asked.ask === 'lines') return linesOn(figure, asked.way, asked.most, partAt);
  return partsOn(figure, asked.way, asked.by, partAt);
}

self.onmessage = ({ data }: MessageEvent<{ id: number; asked: Asked } | Brought>) => {
  if ('part' in data) {
    const who = waiting.get(data.part);
    waiting.delete(data.part);
    if ('lines' in data) who?.done(JSON.parse(data.lines) as BundledLine[]);
    else who?.failed(new Error(data.failed));
    return;
  }
  answer(data.asked).then(
    (is) => self.postMessage({ id: data.id, is }),
    (error: Error) => self.postMessage({ id: data.id, failed: error.message }),
  );
};
