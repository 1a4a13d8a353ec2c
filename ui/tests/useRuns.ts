'use client';

import { useQuery } from '@tanstack/react-query';
import { ask } from '../query/client';

/** So often one asks how far something is that is under way. */
const LOOK_EVERY_MS = 1_000;
const underWay = (run: { state: string } | undefined): boolean => run?.state === 'waiting' || run?.state === 'running';

export const useRuns = () =>
  useQuery({
    queryKey: ['/test-runs', ''],
    queryFn: ({ signal }) => ask('GET /test-runs', { signal }),
    refetchInterval: ({ state }) => (state.data?.rows.some(underWay) ? LOOK_EVERY_MS : false),
  });

export const useRun = (id: number) =>
  useQuery({
    queryKey: [`/test-runs/${id}`, ''],
    queryFn: ({ signal }) => ask('GET /test-runs/{id}', { path: { id }, signal }),
    refetchInterval: ({ state }) => (underWay(state.data) ? LOOK_EVERY_MS : false),
  });
