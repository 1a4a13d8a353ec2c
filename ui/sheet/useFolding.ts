'use client';

import type { ExpandedState } from '@tanstack/react-table';
import { useMemo, useState } from 'react';
import { recall, remember } from '../address/memory';

/** Which rows of a sheet are unfolded, by their keys, and the way to change it. */
export interface Folding {
  expanded: ExpandedState;
  change(expanded: ExpandedState): void;
}

/** Rows are unfolded but for those that somebody folded; coming back to a sheet they are folded again. */
export function useFolding(memoryKey: string): Folding & {
  folded: ReadonlySet<string>;
  /** Folds these rows, and no others. */
  fold(keys: Iterable<string>): void;
} {
  const [expanded, setExpanded] = useState<ExpandedState>(() => allBut(recall(memoryKey).folded ?? []));
  const folded = useMemo(() => foldedIn(expanded), [expanded]);
  const change = (next: ExpandedState): void => {
    setExpanded(next);
    remember(memoryKey, { folded: [...foldedIn(next)] });
  };
  return { expanded, folded, change, fold: (keys) => change(allBut(keys)) };
}

export const allBut = (keys: Iterable<string>): ExpandedState =>
  Object.fromEntries([...keys].map((key) => [key, false]));

export const foldedIn = (expanded: ExpandedState): ReadonlySet<string> =>
  new Set(expanded === true ? [] : Object.keys(expanded).filter((key) => !expanded[key]));

/** With one row turned over. @param folded whether it is folded now */
export const turned = (expanded: ExpandedState, key: string, folded: boolean): ExpandedState => ({
  ...(expanded === true ? {} : expanded),
  [key]: folded,
});

/** Rows that are folded but for those that are named, such as the accounts of a statement: what is named after a change. @param all those that `true` stands for */
export function namedAfter(
  named: Iterable<string>,
  change: ExpandedState,
  all: readonly string[],
): ReadonlySet<string> {
  if (change === true) return new Set(all);
  const kept = new Set(named);
  for (const [key, is] of Object.entries(change)) {
    if (is) kept.add(key);
    else kept.delete(key);
  }
  return kept;
}
