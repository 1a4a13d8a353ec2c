'use client';

import { keepPreviousData, useMutation, useQueries, useQuery, useQueryClient } from '@tanstack/react-query';
import type { AnswerOf, PathOf, RouteName } from '@/contracts/routes';
import { ask } from './client';
import { keyOf } from './keys';

/** A route that is asked, and changes nothing. */
type Asked = Extract<RouteName, `GET ${string}`>;

/** Any question by its path and parameters; the former answer stays on screen, marked as such, until the new one is there. */
export function useAnswer<Name extends Asked>(
  name: Name,
  params: URLSearchParams | null,
  ...[path]: keyof PathOf<Name> extends never ? [] : [path: Record<keyof PathOf<Name>, string | number>]
) {
  return useQuery({
    queryKey: keyOf(name, path, params),
    queryFn: ({ signal }) => ask(name, { query: params ?? undefined, signal, path } as never),
    placeholderData: keepPreviousData,
    enabled: params !== null,
  });
}

/**
 * The same question of several parameters, each with each of several paths; those answers that are there, in order. The
 * list is the same one until an answer changes.
 */
export function useAnswers<Name extends Asked>(
  name: Name,
  params: readonly URLSearchParams[],
  ...[paths]: keyof PathOf<Name> extends never ? [] : [paths: readonly Record<keyof PathOf<Name>, string | number>[]]
): AnswerOf<Name>[] {
  const places = paths ?? [undefined];
  return useQueries({
    queries: places.flatMap((path) =>
      params.map((asked) => ({
        queryKey: keyOf(name, path as never, asked),
        queryFn: ({ signal }: { signal: AbortSignal }) => ask(name, { query: asked, signal, path } as never),
        staleTime: 60_000,
      })),
    ),
    combine: here,
  }) as AnswerOf<Name>[];
}

/** Answers that have come. Kept apart, so that it is the same function every time. */
const here = (results: readonly { data?: unknown }[]): unknown[] => results.flatMap(({ data }) => data ?? []);

export const useEntities = () =>
  useQuery({ queryKey: ['/entities'], queryFn: () => ask('GET /entities'), staleTime: 30_000 });

/** A list, and each of what is in it. */
const isWithin = (key: unknown, path: string): boolean =>
  typeof key === 'string' && (key === path || key.startsWith(`${path}/`));

/** A change, after which the lists that it touches are asked again, or everything. */
export function useChange<Wanted, Answer = unknown>(
  change: (wanted: Wanted) => Promise<Answer>,
  touches: readonly string[] | 'everything',
) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: () =>
      touches === 'everything'
        ? client.invalidateQueries()
        : client.invalidateQueries({ predicate: ({ queryKey: [key] }) => touches.some((path) => isWithin(key, path)) }),
  });
}

export const useThreads = () => useQuery({ queryKey: ['/threads'], queryFn: () => ask('GET /threads') });

export const useThread = (id: number | null) =>
  useQuery({
    queryKey: ['/threads', id],
    queryFn: () => ask('GET /threads/{id}', { path: { id: id as number } }),
    enabled: id !== null,
  });

export const useKeptScopes = () =>
  useQuery({ queryKey: ['/scopes'], queryFn: () => ask('GET /scopes'), staleTime: 60_000 });

const LOADS_EVERY_MS = 500;

export const useLoads = () =>
  useQuery({
    queryKey: ['/loads'],
    queryFn: () => ask('GET /loads'),
    refetchInterval: ({ state }) => (state.data?.rows.some((l) => l.status === 'reading') ? LOADS_EVERY_MS : 10_000),
  });

export const useLoad = (id: number | null) =>
  useQuery({
    queryKey: ['/loads', id],
    queryFn: () => ask('GET /loads/{id}', { path: { id: id as number } }),
    enabled: id !== null,
    refetchInterval: ({ state }) => (state.data?.status === 'reading' ? LOADS_EVERY_MS : false),
  });

export const useCompleteness = (id: number, wanted: boolean) =>
  useQuery({
    queryKey: ['/loads', id, 'completeness'],
    queryFn: () => ask('GET /loads/{id}/completeness', { path: { id } }),
    enabled: wanted,
    staleTime: 60_000,
  });

const SOURCES_EVERY_MS = 1_000;

export const useConnections = () =>
  useQuery({
    queryKey: ['/connections'],
    queryFn: () => ask('GET /connections'),
    refetchInterval: ({ state }) =>
      state.data?.rows.some((c) => !['idle', 'failed'].includes(c.state)) ? SOURCES_EVERY_MS : 15_000,
  });

/** How often open screens ask whether a newer load has come. */
const NEWEST_EVERY_MS = 10_000;

export const useNewest = () =>
  useQuery({
    queryKey: ['/newest'],
    queryFn: () => ask('GET /newest'),
    refetchInterval: NEWEST_EVERY_MS,
    staleTime: NEWEST_EVERY_MS / 2,
  });
