'use client';

import { createContext, useContext } from 'react';
import type { Role } from '@/contracts/roles';

/** Who is signed in. */
export interface Me {
  id: number;
  name: string;
  role: Role;
}

export const MeContext = createContext<Me>({ id: 0, name: '', role: 'reader' });
export const useMe = (): Me => useContext(MeContext);
