'use client';

import { useSearchParams } from 'next/navigation';
import { useDeferredValue, useMemo } from 'react';
import { type ListAttribute, listed, nextOrder, offered, type Shown, shownOf, withShown } from './listing';

/** A list that is found in, limited and put in order, all in the address. */
export function useListing<Row>(
  rows: readonly Row[],
  attributes: readonly ListAttribute<Row>[],
  text: (row: Row) => string,
) {
  const params = useSearchParams();
  const shown = useMemo(() => shownOf(new URLSearchParams(params)), [params]);
  const late = useDeferredValue(shown);
  const show = (next: Partial<Shown>): void => {
    const to = withShown(new URLSearchParams(params), { ...shown, ...next });
    // Nothing is asked of the server for it.
    window.history.replaceState(null, '', to.size > 0 ? `?${to}` : window.location.pathname);
  };
  return {
    all: rows.length,
    rows: useMemo(() => listed(rows, attributes, late, text), [rows, attributes, late, text]),
    offers: useMemo(() => offered(rows, attributes, shown.chosen), [rows, attributes, shown.chosen]),
    ...shown,
    setFind: (find: string): void => show({ find }),
    choose: (key: string, value: string): void => show({ chosen: { ...shown.chosen, [key]: value } }),
    setOrder: (order: string): void => show({ order }),
    orderBy: (key: string): void => show({ order: nextOrder(shown.order, key) }),
  };
}

/** What a head of a table needs to be one that puts the list in order. */
export interface Ordering {
  order: string;
  orderBy(key: string): void;
}
