import { type Bundle, entryOf, partsOf, performed, tracedTo, type Way } from '@/core/bundle';
import { checkFiles, unzipped } from './checked';

/** What the page asks: each figure worked out again, what a way leads to, its parts, an entry, all of its files. */
export type Asked =
  | { ask: 'begin'; bundle: string }
  | { ask: 'perform'; figure: number }
  | { ask: 'lines'; figure: number; way: Way }
  | { ask: 'parts'; figure: number; way: Way; by: string }
  | { ask: 'entry'; figure: number; way: Way; line: number }
  /** The bundle as a whole: its ZIP, or the files of its folder. */
  | { ask: 'check'; zip: ArrayBuffer }
  | { ask: 'check'; files: [path: string, content: ArrayBuffer][] };

let bundle: Bundle | null = null;

/** The core of the installation, working on what is inside alone. */
export function answer(asked: Asked): unknown {
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
  const figure = bundle?.figures[asked.figure];
  if (!bundle || !figure) throw new Error('there is no such figure inside');
  if (asked.ask === 'perform') return performed(bundle, figure);
  const lines = tracedTo(bundle, figure, asked.way);
  if (asked.ask === 'lines') return lines;
  if (asked.ask === 'parts')
    return partsOf(lines, asked.by).map(({ lines: of, ...part }) => ({ ...part, count: of.length }));
  const line = lines[asked.line];
  return line ? entryOf(bundle, line) : [];
}

self.onmessage = ({ data: { id, asked } }: MessageEvent<{ id: number; asked: Asked }>) => {
  try {
    self.postMessage({ id, is: answer(asked) });
  } catch (error) {
    self.postMessage({ id, failed: (error as Error).message });
  }
};
