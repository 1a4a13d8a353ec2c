'use client';

import type { ReactNode } from 'react';

/** An amount whose closing bracket hangs out to the right, so that the decimal points are in line. */
export function Hung({ children }: { children: ReactNode }) {
  const hangs = typeof children === 'string' && children.endsWith(')');
  return <span className={hangs ? '' : 'pr-[0.3em]'}>{children}</span>;
}
