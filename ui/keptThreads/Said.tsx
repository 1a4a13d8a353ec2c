import type { ReactNode } from 'react';

/** A line of what a thread says: its name and the words. */
export const Said = ({ name, children }: { name: string; children: ReactNode }) => (
  <>
    <dt className="text-soft">{name}</dt>
    <dd className="max-w-[75ch] whitespace-pre-wrap">{children}</dd>
  </>
);
