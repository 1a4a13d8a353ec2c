import type { ReactNode } from 'react';

/** What a picture is of, and how it is read. */
export const Caption = ({ children }: { children: ReactNode }) => (
  <p className="mb-4 max-w-[110ch] text-soft">{children}</p>
);
