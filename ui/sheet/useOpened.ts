'use client';

import { useState } from 'react';
import { FEATURES } from './features/list';

const NOTHING: ReadonlySet<string> = new Set();

/** Which features of a sheet are open: of the panels below it one at a time, of what is beside or over it any. */
export function useOpened() {
  const [panel, setPanel] = useState<string | null>(null);
  const [shown, setShown] = useState(NOTHING);
  const isPanel = (name: string): boolean => FEATURES.some((f) => f.name === name && f.panel);
  return {
    isOpen: (name: string): boolean => panel === name || shown.has(name),
    setOpen: (name: string, open: boolean): void => {
      if (isPanel(name)) setPanel(open ? name : null);
      else setShown(open ? new Set([...shown, name]) : new Set([...shown].filter((n) => n !== name)));
    },
    closePanel: (): void => setPanel(null),
  };
}
