import { useCallback, useEffect, useRef, useState } from 'react';
import { countText } from '../amounts';
import type { FoundRow, SheetModel } from './model';

type Way = 'next' | 'previous';

/** Whoever types on is not asked for each letter. */
const TYPED_MS = 150;

/** Jumps to a row by typing part of what it is called; arrows go on to the next one and back, Enter stays there. */
export function FindInSheet({
  model,
  from,
  onFound,
  onClose,
}: {
  model: SheetModel;
  from: number;
  onFound(row: number): void;
  onClose(): void;
}) {
  const [text, setText] = useState('');
  const { said, seek, whenFound } = useSeeking(model, onFound);
  return (
    <label className="flex items-baseline gap-2 whitespace-nowrap">
      <span className="text-faint">Find</span>
      <input
        autoFocus
        value={text}
        onChange={({ target: { value } }) => {
          setText(value);
          seek(value, null, 'next');
        }}
        onKeyDown={(event) => {
          if (event.key === 'ArrowDown') seek(text, from, 'next');
          if (event.key === 'ArrowUp') seek(text, from, 'previous');
          if (event.key === 'Escape') onClose();
          // Who presses Enter before the row is found goes on from there once it is.
          if (event.key === 'Enter') whenFound(onClose);
        }}
        className="w-[150px] border-b border-ink bg-transparent text-ink outline-offset-2"
      />
      <span role="status">{text === '' ? '' : said}</span>
    </label>
  );
}

/** Looks for rows: among those of the sheet, or where the sheet has not all of them by asking for the place of the next. */
function useSeeking(model: SheetModel, onFound: (row: number) => void) {
  const [said, setSaid] = useState('');
  const looking = useRef<{ typed: ReturnType<typeof setTimeout> | null; after: (() => void) | null } | null>(null);
  const leave = useCallback((): void => {
    if (looking.current?.typed) clearTimeout(looking.current.typed);
    looking.current = null;
  }, []);
  useEffect(() => leave, [leave]);
  const tell = (found: FoundRow | null): void => {
    setSaid(found === null ? 'no row' : `${countText(found.number)} of ${countText(found.of)}`);
    if (found) onFound(found.row);
  };
  const seek = (text: string, from: number | null, way: Way): void => {
    leave();
    if (text === '') return;
    const { seek: far } = model;
    if (!far) {
      tell(seekIn(model, text, from, way));
      return;
    }
    const mine: NonNullable<typeof looking.current> = { typed: null, after: null };
    looking.current = mine;
    // The answer to what was typed before comes too late.
    const come = (act: () => void): void => {
      if (looking.current !== mine) return;
      looking.current = null;
      act();
      mine.after?.();
    };
    const look = (): void => {
      setSaid('…');
      far(text, from, way).then(
        (found) => come(() => tell(found)),
        (problem: Error) => come(() => setSaid(problem.message)),
      );
    };
    if (from === null) mine.typed = setTimeout(look, TYPED_MS);
    else look();
  };
  return {
    said,
    seek,
    /** Does something once nothing is looked for any more. */
    whenFound: (act: () => void): void => {
      if (looking.current) looking.current.after = act;
      else act();
    },
  };
}

/** The next row of a sheet that is called so, or the one before, round and round. @param from null: from the first on */
export function seekIn(model: SheetModel, text: string, from: number | null, way: Way): FoundRow | null {
  const rows = model.loaded ? [...model.loaded] : Array.from({ length: model.count }, (_, i) => i);
  const all = rows.filter((i) => model.rowAt(i)?.label.toLowerCase().includes(text.toLowerCase()));
  const row =
    way === 'next'
      ? (all.find((i) => from === null || i > from) ?? all[0])
      : (all.findLast((i) => from !== null && i < from) ?? all.at(-1));
  return row === undefined ? null : { row, number: all.indexOf(row) + 1, of: all.length };
}
