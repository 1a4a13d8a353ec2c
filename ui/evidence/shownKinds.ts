'use client';

import { useSyncExternalStore } from 'react';

/** Kinds of evidence that the margin can show, in its order. */
export const KINDS = {
  notes: 'notes',
  ticks: 'ticks',
  pins: 'pins',
  files: 'files',
  points: 'review points',
  questions: 'questions',
  findings: 'findings',
  expectations: 'expectations',
  proposed: 'proposed entries',
} as const;
export type Kind = keyof typeof KINDS;

/** What is not shown: kinds, and people by their names. */
export interface Hidden {
  kinds: readonly Kind[];
  people: readonly string[];
}

const KEPT = 'evidence-hidden';
const NOTHING: Hidden = { kinds: [], people: [] };
let held: Hidden | null = null;
const watchers = new Set<() => void>();

function read(): Hidden {
  if (held) return held;
  try {
    held = { ...NOTHING, ...(JSON.parse(window.localStorage.getItem(KEPT) ?? '{}') as Partial<Hidden>) };
  } catch {
    held = NOTHING;
  }
  return held;
}

/** Hides or shows; it stays so on every sheet of this browser. */
export function hide(next: Hidden): void {
  held = next;
  window.localStorage.setItem(KEPT, JSON.stringify(next));
  for (const tell of watchers) tell();
}

export const useHidden = (): Hidden =>
  useSyncExternalStore(
    (tell) => {
      watchers.add(tell);
      return () => watchers.delete(tell);
    },
    read,
    () => NOTHING,
  );

export const toggledIn = <Of>(list: readonly Of[], one: Of): Of[] =>
  list.includes(one) ? list.filter((x) => x !== one) : [...list, one];
