'use client';

import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { createContext, type ReactNode, useContext, useEffect, useState } from 'react';
import type { Role } from '@/contracts/roles';
import { beginRecalling } from '../address/memory';
import { Help } from '../help/Help';
import { bringTheRest, later } from '../parts/later';
import { doWhatWasPressed } from './early';

export interface Me {
  name: string;
  role: Role;
}

const Toasts = later(() => import('../parts/Toasts').then((m) => m.Toasts));

const MeContext = createContext<Me>({ name: '', role: 'reader' });
export const useMe = (): Me => useContext(MeContext);

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
        <Toasts />
      </QueryClientProvider>
    </MeContext>
  );
}
