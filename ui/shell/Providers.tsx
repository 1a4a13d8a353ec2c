'use client';

import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { createContext, type ReactNode, useContext, useState } from 'react';
import { Toaster } from 'sonner';
import type { Role } from '@/contracts/roles';
import { Help } from '../help/Help';

export interface Me {
  name: string;
  role: Role;
}

const MeContext = createContext<Me>({ name: '', role: 'reader' });
export const useMe = (): Me => useContext(MeContext);

export function Providers({ viewer, children }: { viewer: Me; children: ReactNode }) {
  const [client] = useState(
    () =>
      new QueryClient({ defaultOptions: { queries: { retry: false, staleTime: 5_000, refetchOnWindowFocus: false } } }),
  );
  return (
    <MeContext value={viewer}>
      <QueryClientProvider client={client}>
        <Help>{children}</Help>
        <Toaster position="bottom-center" toastOptions={{ className: 'panel !font-sans' }} />
      </QueryClientProvider>
    </MeContext>
  );
}
