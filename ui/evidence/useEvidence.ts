'use client';

import { useQueries, useQuery } from '@tanstack/react-query';
import type { EvidenceFile, Finding, Note, Pin, Point, Question, Tick } from '@/contracts/answers/evidence';
import type { Expectation } from '@/contracts/answers/expectations';
import type { Proposed } from '@/contracts/answers/proposals';
import { ask } from '../query/client';

/** What was kept about what is on the screen, by its kind. */
export interface Evidence {
  notes: Note[];
  pins: Pin[];
  ticks: Tick[];
  files: EvidenceFile[];
  points: Point[];
  questions: Question[];
  findings: Finding[];
  expectations: Expectation[];
  proposed: Proposed[];
}

const LISTS = [
  'GET /notes',
  'GET /pins',
  'GET /ticks',
  'GET /attachments',
  'GET /review-points',
  'GET /questions',
  'GET /findings',
  'GET /expectations',
  'GET /proposed-entries',
] as const;
const pathOf = (name: (typeof LISTS)[number]): string => name.slice(4);

/** Evidence on what the viewer may see of some companies, or of one subject; asked for in one round trip. */
export function useEvidence(asked: { entity: readonly string[] } | { subject: string }): Evidence {
  const query = new URLSearchParams(
    'subject' in asked ? [['subject', asked.subject]] : asked.entity.map((e) => ['entity', e]),
  );
  return useQueries({
    queries: LISTS.map((name) => ({
      queryKey: [pathOf(name), query.toString()],
      queryFn: () => everyPage(name, query),
      enabled: query.size > 0,
    })),
    combine: gathered,
  });
}

/** All of a list, page by page: a sheet shows every mark that is on it, or it says nothing. */
async function everyPage(name: (typeof LISTS)[number], query: URLSearchParams): Promise<{ rows: unknown[] }> {
  const rows: unknown[] = [];
  for (let after: string | null = null; ; ) {
    const asked: URLSearchParams = new URLSearchParams(query);
    if (after !== null) asked.set('after', after);
    const page = (await ask(name, { query: asked })) as { rows: unknown[]; next: string | null };
    rows.push(...page.rows);
    if (page.next === null) return { rows };
    after = page.next;
  }
}

/** Kept apart, so that it is the same function every time. */
function gathered(results: readonly { data?: { rows: unknown[] } | undefined }[]): Evidence {
  const rows = <Row>(at: number): Row[] => (results[at]?.data?.rows ?? []) as Row[];
  return {
    notes: rows<Note>(0),
    pins: rows<Pin>(1),
    ticks: rows<Tick>(2),
    files: rows<EvidenceFile>(3),
    points: rows<Point>(4),
    questions: rows<Question>(5),
    findings: rows<Finding>(6),
    expectations: rows<Expectation>(7),
    proposed: rows<Proposed>(8),
  };
}

export const useColleagues = () =>
  useQuery({ queryKey: ['/colleagues'], queryFn: () => ask('GET /colleagues'), staleTime: 300_000 });

export const useTickMarks = () =>
  useQuery({ queryKey: ['/tick-marks'], queryFn: () => ask('GET /tick-marks'), staleTime: 60_000 });
