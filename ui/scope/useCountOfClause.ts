'use client';

import { useMemo } from 'react';
import { useAnswer } from '../query/hooks';
import { useDebounced } from '../query/useDebounced';

/** So long nobody types before what has been typed is counted. */
export const PAUSE_MS = 300;

/** The scope with a clause in place of the one of its name. */
export function withClause(scope: URLSearchParams, name: string, values: readonly string[]): URLSearchParams {
  const found = new URLSearchParams(scope);
  found.delete(name);
  for (const value of values) found.append(name, value);
  return found;
}

export interface Counted {
  said: string;
  /** Why it cannot be used, or counted. */
  fault: string | null;
  isKnown: boolean;
  /** Whether no line of the window is like that. */
  isNone: boolean;
}

/** How many lines a clause takes within the scope, or why it cannot be used; counted while it is written. */
export function useCountOfClause(name: string, values: readonly string[], scope: URLSearchParams): Counted {
  const text = useDebounced(values.join('\n'), PAUSE_MS);
  const asked = useMemo(() => (text === '' ? null : withClause(scope, name, text.split('\n'))), [text, scope, name]);
  const { data, error, isPlaceholderData } = useAnswer('GET /totals', asked);
  if (asked === null) return { said: '', fault: null, isKnown: false, isNone: false };
  if (error) return { said: '', fault: error.message, isKnown: true, isNone: false };
  const count = data?.total.count;
  if (count === undefined || isPlaceholderData || text !== values.join('\n'))
    return { said: 'counting …', fault: null, isKnown: false, isNone: false };
  return {
    said:
      count === 0
        ? 'takes no line of this window'
        : `takes ${count.toLocaleString()} ${count === 1 ? 'line' : 'lines'} of this window`,
    fault: null,
    isKnown: true,
    isNone: count === 0,
  };
}
