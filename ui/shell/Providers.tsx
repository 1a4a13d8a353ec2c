'use client';

import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { type ReactNode, useEffect, useState } from 'react';
import { beginRecalling } from '../address/memory';
import { Help } from '../help/Help';
import { bringTheRest, later } from '../parts/later';
import { Search } from '../search/Search';
import { doWhatWasPressed } from './early';
import { type Me, MeContext } from './me';

const Toasts = later(() => import('../parts/Toasts').then((m) => m.Toasts));

export function Providers({ viewer, children }: { viewer: Me; children: ReactNode }) {
  const [client] = useState(
    () =>
      new QueryClient({ defaultOptions: { queries: { retry: false, staleTime: 5_000, refetchOnWindowFocus: false } } }),
  );
  useEffect(() => {
    beginRecalling();
    bringTheRest();
    // A sheet says so itself, once it is there.
    if (!document.querySelector('[role=grid]')) doWhatWasPressed();
  }, []);
  return (
    <MeContext value={viewer}>
      <QueryClientProvider client={client}>
        <Help>{children}</Help>
        <Search />
        <Toasts />
      </QueryClientProvider>
    </MeContext>
  );
}
