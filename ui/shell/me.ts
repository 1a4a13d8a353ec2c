'use client';

import { createContext, useContext } from 'react';
import type { Role } from '@/contracts/roles';

/** Who is signed in. */
export interface Me {
  name: string;
  role: Role;
}

export const MeContext = createContext<Me>({ name: '', role: 'reader' });
export const useMe = (): Me => useContext(MeContext);
