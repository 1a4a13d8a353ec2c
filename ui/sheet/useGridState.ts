'use client';

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import {
  columnOrderingFeature,
  columnSizingFeature,
  columnVisibilityFeature,
  functionalUpdate,
  type ReactTable,
  type RowSelectionState,
  rowExpandingFeature,
  rowSelectionFeature,
  tableFeatures,
  useTable,
} from '@tanstack/react-table';
import { useCallback, useMemo, useState } from 'react';
import type { Layouts } from '@/contracts/answers/settings';
import type { ColumnLayout } from '@/contracts/bodies/all';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { AS_IT_COMES, inOrder, isShown, withShown } from './arrange';
import type { Column } from './gridModel';
import type { Folding } from './useFolding';

const features = tableFeatures({
  columnOrderingFeature,
  columnVisibilityFeature,
  columnSizingFeature,
  rowSelectionFeature,
  rowExpandingFeature,
});

/** Rows are fetched and drawn where they are seen, a million of them as ten; the table holds their state by number, not them. */
type Unheld = Record<string, never>;
const ROWS_ELSEWHERE: Unheld[] = [];

export type GridTable = ReactTable<typeof features, Unheld>;

/**
 * The state of a sheet's grid: order, width and visibility of its columns as the person who looks has arranged them,
 * kept for them alone, which rows are chosen together, and which are unfolded.
 * @param sheet under what the arrangement is kept
 * @param folding absent where there is nothing to fold
 */
export function useGridState(sheet: string, columns: readonly Column[], folding: Folding | undefined) {
  const { layout, arrange, known } = useLayout(sheet);
  const [rowSelection, setSelection] = useState<RowSelectionState>({});
  const ordered = useMemo(() => inOrder(columns, layout.order), [columns, layout.order]);
  const table: GridTable = useTable({
    features,
    data: ROWS_ELSEWHERE,
    // The first says what the row is: it stays, and stays first.
    columns: useMemo(() => columns.map((c, i) => ({ id: c.key, enableHiding: i > 0 })), [columns]),
    state: {
      columnOrder: useMemo(() => ordered.map((c) => c.key), [ordered]),
      columnVisibility: useMemo(
        () => Object.fromEntries(columns.map((c, i) => [c.key, i === 0 || isShown(c, layout)])),
        [columns, layout],
      ),
      columnSizing: layout.widths,
      rowSelection,
      expanded: folding?.expanded ?? true,
    },
    onColumnOrderChange: (change) =>
      arrange({
        ...layout,
        order: functionalUpdate(
          change,
          ordered.map((c) => c.key),
        ).slice(1),
      }),
    onColumnVisibilityChange: (change) => {
      const before = Object.fromEntries(columns.map((c) => [c.key, isShown(c, layout)]));
      const after = functionalUpdate(change, before);
      const touched = columns.filter((c) => (after[c.key] ?? true) !== before[c.key]);
      arrange(touched.reduce((l, c) => withShown(l, c, after[c.key] ?? true), layout));
    },
    onColumnSizingChange: (change) => arrange({ ...layout, widths: functionalUpdate(change, layout.widths) }),
    onRowSelectionChange: setSelection,
    onExpandedChange: (change) => folding?.change(functionalUpdate(change, folding.expanded)),
  });
  // As one word, so that the columns stay the same object while nothing about them changes.
  const visible = JSON.stringify(table.getVisibleLeafColumns().map(({ id }) => id));
  return {
    table,
    /** The columns that are shown, in order, each as wide as it was made. */
    columns: useMemo(() => {
      const byKey = new Map(columns.map((c) => [c.key, c]));
      return (JSON.parse(visible) as string[]).flatMap((key): Column[] => {
        const column = byKey.get(key);
        const width = layout.widths[key];
        return column ? [width === undefined ? column : { ...column, width: `${width}px` }] : [];
      });
    }, [visible, columns, layout.widths]),
    layout,
    arrange,
    known,
    chosen: useMemo(() => new Set(Object.keys(rowSelection).map(Number)), [rowSelection]),
    choose: useCallback(
      (rows: ReadonlySet<number>): void => setSelection(Object.fromEntries([...rows].map((row) => [row, true]))),
      [],
    ),
  };
}

const KEY = ['/columns'];

/** How a person has arranged the columns of a sheet, and the way to arrange them anew. */
function useLayout(sheet: string) {
  const client = useQueryClient();
  const { data } = useQuery({
    queryKey: KEY,
    queryFn: () => ask('GET /columns'),
    staleTime: Number.POSITIVE_INFINITY,
  });
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
  return { layout: data?.sheets[sheet] ?? AS_IT_COMES, arrange, known: data !== undefined };
}
