'use client';

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useMemo } from 'react';
import { toast } from 'sonner';
import type { Layouts } from '@/contracts/answers/settings';
import type { ColumnLayout } from '@/contracts/bodies';
import { ask } from '../query/client';
import { AS_IT_COMES, arranged } from './arrange';
import type { Column } from './gridModel';

const KEY = ['/columns'];

/** The columns of a sheet as the person who looks has arranged them, and the way to arrange them anew. */
export function useColumns(sheet: string, columns: Column[]) {
  const client = useQueryClient();
  const { data } = useQuery({
    queryKey: KEY,
    queryFn: () => ask('GET /columns'),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const layout = data?.sheets[sheet] ?? AS_IT_COMES;
  const { mutate } = useMutation({
    mutationFn: (body: ColumnLayout | null) =>
      body
        ? ask('PUT /columns/{sheet}', { path: { sheet }, body })
        : ask('DELETE /columns/{sheet}', { path: { sheet } }),
    onError: (error) => toast(error.message),
  });
  /** Shown at once, kept after it; null: as the sheet comes. */
  const arrange = useCallback(
    (next: ColumnLayout | null): void => {
      // An answer that is still on its way would bring back what was there before.
      void client.cancelQueries({ queryKey: KEY });
      client.setQueryData<Layouts>(KEY, (held) => ({ sheets: { ...held?.sheets, [sheet]: next ?? AS_IT_COMES } }));
      mutate(next);
    },
    [client, mutate, sheet],
  );
  return {
    columns: useMemo(() => arranged(columns, layout), [columns, layout]),
    layout,
    arrange,
    known: data !== undefined,
  };
}
