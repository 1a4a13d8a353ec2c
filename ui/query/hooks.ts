'use client';

import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type {
  Completeness,
  Connection,
  Entities,
  KeptScope,
  Load,
  Note,
  Pin,
  SavedThread,
  ThreadInList,
} from './answers';
import { ask } from './client';

/** Any question by its path and parameters; the former answer stays on screen, marked as such, until the new one is there. */
export function useAnswer<Answer>(path: string, params: URLSearchParams | null) {
  const asked = params?.toString() ?? '';
  return useQuery({
    queryKey: [path, asked],
    queryFn: ({ signal }) => ask<Answer>(`${path}?${asked}`, { signal }),
    placeholderData: keepPreviousData,
    enabled: params !== null,
  });
}

export const useEntities = () =>
  useQuery({ queryKey: ['/entities'], queryFn: () => ask<Entities>('/entities'), staleTime: 30_000 });

const evidence = (entities: string[]): string => entities.map((e) => `entity=${encodeURIComponent(e)}`).join('&');

export const useNotes = (entities: string[]) =>
  useQuery({
    queryKey: ['/notes', evidence(entities)],
    queryFn: () => ask<{ rows: Note[] }>(`/notes?${evidence(entities)}`),
    enabled: entities.length > 0,
  });

export const usePins = (entities: string[]) =>
  useQuery({
    queryKey: ['/pins', evidence(entities)],
    queryFn: () => ask<{ rows: Pin[] }>(`/pins?${evidence(entities)}`),
    enabled: entities.length > 0,
  });

/** A change, after which the lists that it touches are asked again. */
export function useChange<Wanted, Answer = unknown>(change: (wanted: Wanted) => Promise<Answer>, touches: string[]) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: () => Promise.all(touches.map((key) => client.invalidateQueries({ queryKey: [key] }))),
  });
}

export const useThreads = () =>
  useQuery({ queryKey: ['/threads'], queryFn: () => ask<{ rows: ThreadInList[] }>('/threads') });

export const useThread = (id: number | null) =>
  useQuery({ queryKey: ['/threads', id], queryFn: () => ask<SavedThread>(`/threads/${id}`), enabled: id !== null });

export const useKeptScopes = () =>
  useQuery({ queryKey: ['/scopes'], queryFn: () => ask<{ rows: KeptScope[] }>('/scopes'), staleTime: 60_000 });

const LOADS_EVERY_MS = 500;

export const useLoads = () =>
  useQuery({
    queryKey: ['/loads'],
    queryFn: () => ask<{ rows: Load[]; next: string | null }>('/loads'),
    refetchInterval: ({ state }) => (state.data?.rows.some((l) => l.status === 'reading') ? LOADS_EVERY_MS : 10_000),
  });

export const useLoad = (id: number | null) =>
  useQuery({
    queryKey: ['/loads', id],
    queryFn: () => ask<Load>(`/loads/${id}`),
    enabled: id !== null,
    refetchInterval: ({ state }) => (state.data?.status === 'reading' ? LOADS_EVERY_MS : false),
  });

export const useCompleteness = (id: number, wanted: boolean) =>
  useQuery({
    queryKey: ['/loads', id, 'completeness'],
    queryFn: () => ask<Completeness>(`/loads/${id}/completeness`),
    enabled: wanted,
    staleTime: 60_000,
  });

const SOURCES_EVERY_MS = 1_000;

export const useConnections = () =>
  useQuery({
    queryKey: ['/connections'],
    queryFn: () => ask<{ rows: Connection[] }>('/connections'),
    refetchInterval: ({ state }) =>
      state.data?.rows.some((c) => !['idle', 'failed'].includes(c.state)) ? SOURCES_EVERY_MS : 15_000,
  });

/** How often open screens ask whether a newer load has come. */
const NEWEST_EVERY_MS = 10_000;

export const useNewest = () =>
  useQuery({
    queryKey: ['/newest'],
    queryFn: () => ask<{ load: number }>('/newest'),
    refetchInterval: NEWEST_EVERY_MS,
    staleTime: NEWEST_EVERY_MS / 2,
  });
