'use client';

import { useCallback, useEffect, useState } from 'react';

/** Cells that were written and not yet kept: "account/period" → amount, empty where a cell was cleared. */
export type Edits = ReadonlyMap<string, string>;

interface History {
  past: Edits[];
  now: Edits;
  future: Edits[];
}

const STEPS_MAX = 200;
const NONE: Edits = new Map();

/**
 * What was written, with undo and redo. It is held in the browser's own session too, so that a page that was left, or
 * lost, still has it.
 * @param name of the sheet that is written in
 */
export function useEdits(name: string) {
  const key = `budget:${name}`;
  const [history, setHistory] = useState<History>(() => ({ past: [], now: recalled(key), future: [] }));
  useEffect(() => {
    if (history.now.size > 0) window.sessionStorage.setItem(key, JSON.stringify([...history.now]));
    else window.sessionStorage.removeItem(key);
  }, [key, history.now]);
  const put = useCallback((cells: readonly (readonly [string, string])[]): void => {
    if (cells.length === 0) return;
    setHistory(({ past, now }) => ({
      past: [...past.slice(-STEPS_MAX), now],
      now: new Map([...now, ...cells]),
      future: [],
    }));
  }, []);
  const undo = useCallback(
    (): void =>
      setHistory((h) =>
        h.past.length === 0
          ? h
          : { past: h.past.slice(0, -1), now: h.past.at(-1) as Edits, future: [h.now, ...h.future] },
      ),
    [],
  );
  const redo = useCallback(
    (): void =>
      setHistory((h) =>
        h.future.length === 0 ? h : { past: [...h.past, h.now], now: h.future[0] as Edits, future: h.future.slice(1) },
      ),
    [],
  );
  const clear = useCallback((): void => setHistory({ past: [], now: NONE, future: [] }), []);
  return {
    now: history.now,
    put,
    undo,
    redo,
    clear,
    canUndo: history.past.length > 0,
    canRedo: history.future.length > 0,
  };
}

function recalled(key: string): Edits {
  if (typeof window === 'undefined') return NONE;
  try {
    return new Map(JSON.parse(window.sessionStorage.getItem(key) ?? '[]') as [string, string][]);
  } catch {
    return NONE;
  }
}
