import type { ReactNode } from 'react';

/** Whether a variance is good or bad for the result, in a word before it (method.md §9). */
export function Verdict({ favourable, children }: { favourable: boolean; children: ReactNode }) {
  return (
    <span title={favourable ? 'favourable' : 'adverse'}>
      <span className="mr-1 text-[12px] text-soft">{favourable ? 'fav' : 'adv'}</span>
      {children}
    </span>
  );
}
