'use client';

import { useCallback, useState } from 'react';
import type { EntryRow, Field } from './entryRows';

interface History {
  past: readonly (readonly EntryRow[])[];
  rows: readonly EntryRow[];
  future: readonly (readonly EntryRow[])[];
  /** The cell that was typed in last: its letters are undone together. */
  typing: string | null;
}

/** Rows of an entry as they are typed, with every step back and forth. */
export function useEntry(first: readonly EntryRow[]) {
  const [held, setHeld] = useState<History>({ past: [], rows: first, future: [], typing: null });
  const change = useCallback((rows: readonly EntryRow[], cell: { row: number; field: Field } | null = null): void => {
    const typing = cell && `${cell.row} ${cell.field}`;
    setHeld((h) => ({
      past: typing !== null && typing === h.typing ? h.past : [...h.past, h.rows],
      ...{ rows, future: [], typing },
    }));
  }, []);
  const undo = useCallback(
    () =>
      setHeld((h) => {
        const last = h.past.at(-1);
        return last ? { past: h.past.slice(0, -1), rows: last, future: [h.rows, ...h.future], typing: null } : h;
      }),
    [],
  );
  const redo = useCallback(
    () =>
      setHeld((h) => {
        const [next, ...future] = h.future;
        return next ? { past: [...h.past, h.rows], rows: next, future, typing: null } : h;
      }),
    [],
  );
  return { rows: held.rows, change, undo, redo, canUndo: held.past.length > 0, canRedo: held.future.length > 0 };
}
