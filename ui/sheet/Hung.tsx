'use client';

import type { ReactNode } from 'react';

/** An amount whose closing bracket hangs out to the right, so that the decimal points are in line. @param text as it reads */
export const Hung = ({ text, children }: { text: string; children: ReactNode }) => (
  <span className={text.endsWith(')') ? '' : 'pr-[0.3em]'}>{children}</span>
);
