'use client';

import { useQueries } from '@tanstack/react-query';
import { useCallback, useMemo, useState } from 'react';
import type { LineRow } from '@/contracts/answers/lines';
import type { SplitSheet } from '@/contracts/answers/sheets';
import { asPut, changedScope } from '../address/address';
import { ask } from '../query/client';
import { useAnswer } from '../query/hooks';
import { PAGE_ROWS } from './ledgerPages';

/** An account, or another member of what lines are grouped by: a heading, its lines, what was rolled over, and its closing. */
export interface Section {
  member: string;
  name: string;
  opening: string;
  debit: string;
  credit: string;
  roll: string;
  closing: string;
  count: number;
  rolls: boolean;
  /** Number of its first row, and how many it has. */
  start: number;
  rows: number;
  put: Record<string, string[]>;
  address: string;
}

/** The section that a row is in, and the row's number within it. */
export function placeOf(sections: readonly Section[], row: number): { section: Section; at: number } | null {
  let [low, high] = [0, sections.length - 1];
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    if ((sections[middle] as Section).start <= row) low = middle;
    else high = middle - 1;
  }
  const section = sections[low];
  return section && row >= section.start && row < section.start + section.rows
    ? { section, at: row - section.start }
    : null;
}

/** The groups of a scope that have a balance or lines, and the lines of those that are seen, page by page. */
export function useSections(scope: URLSearchParams, by: string) {
  const params = useMemo(() => new URLSearchParams([...scope, ['by', by]]), [scope, by]);
  const { data: head, error, isPending, isPlaceholderData } = useAnswer('GET /sheets', params);
  const sections = useMemo(() => laid(head), [head]);
  const [range, setRange] = useState({ first: 0, last: 0 });
  const wanted = useMemo(() => pagesSeen(sections, range.first, range.last), [sections, range]);
  const pages = useQueries({
    queries: wanted.map(({ section, page }) => {
      const asked = new URLSearchParams(scope);
      changedScope(asked, section.put);
      asked.set('limit', String(PAGE_ROWS));
      asked.set('at', String(page * PAGE_ROWS));
      // All pages are read as of the load of the headings.
      if (head?.load !== undefined && !scope.has('load')) asked.set('load', String(head.load));
      return {
        queryKey: ['/lines', asked.toString()],
        queryFn: ({ signal }: { signal: AbortSignal }) => ask('GET /lines', { query: asked, signal }),
        staleTime: 60_000,
      };
    }),
  });
  const rows = useMemo(() => {
    const found = new Map<string, LineRow>();
    for (const [i, { data }] of pages.entries()) {
      for (const [n, row] of data?.rows.entries() ?? [])
        found.set(`${wanted[i]?.section.member}/${(data?.at ?? 0) + n}`, row);
    }
    return found;
  }, [pages, wanted]);
  const onRange = useCallback(
    (first: number, last: number) =>
      setRange((held) => (held.first === first && held.last === last ? held : { first, last })),
    [],
  );
  return {
    head,
    sections,
    lineAt: useCallback(
      (section: Section, at: number): LineRow | undefined => rows.get(`${section.member}/${at}`),
      [rows],
    ),
    error: error ?? pages.find((p) => p.error)?.error ?? null,
    loading: isPending,
    stale: isPlaceholderData,
    onRange,
  };
}

function laid(head: SplitSheet | undefined): Section[] {
  let start = 0;
  return (head?.rows ?? []).map((row) => {
    const rolls = /[1-9]/.test(row.roll);
    const rows = row.count + (rolls ? 3 : 2);
    const section: Section = {
      member: row.member,
      name: row.name,
      opening: row.opening,
      debit: row.debit,
      credit: row.credit,
      roll: row.roll,
      closing: row.closing,
      count: row.count,
      rolls,
      start,
      rows,
      put: asPut(row.refine),
      address: row.address,
    };
    start += rows;
    return section;
  });
}

/** More pages than this are not fetched at once: somebody is scrolling through. */
const PAGES_MAX = 40;

function pagesSeen(sections: readonly Section[], first: number, last: number): { section: Section; page: number }[] {
  const found: { section: Section; page: number }[] = [];
  for (const section of sections) {
    if (section.count === 0 || section.start + section.rows <= first || section.start > last) continue;
    const low = Math.max(0, Math.floor((first - section.start - 1) / PAGE_ROWS));
    const high = Math.min(Math.ceil(section.count / PAGE_ROWS) - 1, Math.floor((last - section.start) / PAGE_ROWS));
    for (let page = low; page <= high && found.length < PAGES_MAX; page++) found.push({ section, page });
  }
  return found;
}
