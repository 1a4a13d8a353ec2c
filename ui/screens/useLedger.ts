'use client';

import { useQueries } from '@tanstack/react-query';
import { useCallback, useMemo, useState } from 'react';
import type { LineRow } from '@/contracts/answers/lines';
import { ask } from '../query/client';
import { PAGE_ROWS, pageAsked, pageKey, pagesOf } from './ledgerPages';

/** The lines of a scope, fetched page by page around what is seen. */
export function useLedger(scope: URLSearchParams, sort: string | undefined) {
  const [range, setRange] = useState({ first: 0, last: 0 });
  const base = pagesOf(scope, sort);
  const wanted = useMemo(() => {
    const from = Math.floor(range.first / PAGE_ROWS);
    const to = Math.floor(range.last / PAGE_ROWS) + (range.last > 0 ? 1 : 0);
    return [...new Set([0, ...Array.from({ length: to - from + 1 }, (_, i) => from + i)])];
  }, [range]);
  // Further pages are read as of the load of the first, so that a load in between never mixes two states.
  const [asOf, setAsOf] = useState<number | null>(null);
  const pages = useQueries({
    queries: wanted.map((page) => ({
      queryKey: pageKey(base, page),
      queryFn: ({ signal }: { signal: AbortSignal }) =>
        ask('GET /lines', { query: pageAsked(base, page, scope.has('load') ? null : asOf), signal }),
      staleTime: 60_000,
    })),
  });
  const first = pages[0];
  const read = first?.data?.load;
  if (read !== undefined && read !== asOf) setAsOf(read);
  const rows = useMemo(() => {
    const found = new Map<number, LineRow>();
    for (const { data } of pages)
      for (const [i, row] of data?.rows.entries() ?? []) found.set((data?.at ?? 0) + i, row);
    return found;
  }, [pages]);
  const onRange = useCallback(
    (from: number, to: number) =>
      setRange((held) => (held.first === from && held.last === to ? held : { first: from, last: to })),
    [],
  );
  // What is read so far stays; what could not be read is said beside it, and read again when asked.
  const failed = pages.slice(1).filter((page) => page.isError);
  return {
    unread: failed[0]?.error ?? null,
    readAgain: () => void Promise.all(failed.map((page) => page.refetch())),
    head: first?.data,
    error: first?.error ?? null,
    loading: first?.isPending ?? true,
    rows,
    onRange,
    ending: pages.map((p) => p.data?.tie).find(Boolean),
  };
}
