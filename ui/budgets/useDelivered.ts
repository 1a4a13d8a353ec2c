'use client';

import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { useLoad } from '../query/hooks';

/**
 * Waits for a load of budget lines.
 * @param onLoaded called once it counts
 * @returns why it was refused, if it was
 */
export function useDelivered(id: number | null, onLoaded: () => void): Error | null {
  const { data } = useLoad(id);
  const client = useQueryClient();
  const act = useRef(onLoaded);
  useEffect(() => {
    act.current = onLoaded;
  });
  const loaded = data?.status === 'loaded' && data.id === id;
  useEffect(() => {
    if (!loaded) return;
    // Every sheet may show a budget column.
    void client
      .invalidateQueries({ predicate: ({ queryKey }) => !String(queryKey[0]).startsWith('/loads') })
      .then(() => act.current());
  }, [loaded, client]);
  if (data?.status !== 'refused') return null;
  const [first] = data.problems ?? [];
  return new Error(
    `Load ${data.id} was refused: ${first ? first.message : (data.message ?? 'see its page')}. Nothing was changed`,
  );
}
