'use client';

import { type KeyboardEvent, useState } from 'react';

/** A cell while it is written: what is typed is its own until it is taken, so that the sheet is not drawn for every key. */
export function CellEditor({
  label,
  start,
  onTake,
  onLeave,
}: {
  label: string;
  start: string;
  /** @param to where the keyboard goes next: rows and columns from here; null: it stays */
  onTake(text: string, to: [rows: number, columns: number] | null): void;
  onLeave(): void;
}) {
  const [text, setText] = useState(start);
  const onKey = (event: KeyboardEvent): void => {
    const done: Record<string, () => void> = {
      Enter: () => onTake(text, [1, 0]),
      Tab: () => onTake(text, [0, event.shiftKey ? -1 : 1]),
      Escape: onLeave,
    };
    if (!done[event.key]) return;
    event.preventDefault();
    done[event.key]?.();
  };
  return (
    <input
      autoFocus
      aria-label={label}
      value={text}
      onChange={(event) => setText(event.target.value)}
      onKeyDown={onKey}
      onBlur={() => onTake(text, null)}
      className="w-full bg-sheet text-right outline-none"
    />
  );
}
