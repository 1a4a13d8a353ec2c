'use client';

import { useRouter } from 'next/navigation';
import { createContext, type ReactNode, useContext, useEffect, useState } from 'react';
import { later } from '../parts/later';
import { WALKS, type Walk } from './walks';

const HelpDialog = later(() => import('./HelpDialog').then((m) => m.HelpDialog));

const OpenHelp = createContext<() => void>(() => {});
/** Opens the page of help for where one is. */
export const useHelp = (): (() => void) => useContext(OpenHelp);

const KEPT = 'walk';
interface Under {
  walk: Walk;
  at: number;
}

function recalled(): Under | null {
  try {
    const { key, at } = JSON.parse(window.sessionStorage.getItem(KEPT) ?? 'null') as { key: string; at: number };
    const walk = WALKS.find((w) => w.key === key);
    return walk && walk.steps[at] ? { walk, at } : null;
  } catch {
    return null;
  }
}

/** Help where one is, by F1, and a walk under way at the foot of every screen. */
export function Help({ children }: { children: ReactNode }) {
  const [open, setOpen] = useState(false);
  const [under, setUnder] = useState<Under | null>(null);
  const router = useRouter();
  useEffect(() => setUnder(recalled()), []);
  useEffect(() => {
    const listen = (event: KeyboardEvent): void => {
      if (event.key !== 'F1') return;
      event.preventDefault();
      setOpen(true);
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
  const go = (to: Under | null): void => {
    setUnder(to);
    if (to) window.sessionStorage.setItem(KEPT, JSON.stringify({ key: to.walk.key, at: to.at }));
    else window.sessionStorage.removeItem(KEPT);
    const place = to?.walk.steps[to.at]?.at;
    if (place) router.push(place);
  };
  return (
    <OpenHelp value={() => setOpen(true)}>
      <div className="flex h-screen flex-col">
        <div className="min-h-0 flex-1">{children}</div>
        {under && <WalkBar under={under} onGo={go} />}
      </div>
      {open && (
        <HelpDialog
          onClose={() => setOpen(false)}
          onWalk={(walk) => {
            setOpen(false);
            go({ walk, at: 0 });
          }}
        />
      )}
    </OpenHelp>
  );
}

/** The step of a walk that is to be done now. */
function WalkBar({ under: { walk, at }, onGo }: { under: Under; onGo(to: Under | null): void }) {
  const last = at === walk.steps.length - 1;
  return (
    <aside aria-label="Walk" className="flex shrink-0 items-center gap-4 border-t border-ink bg-sheet px-4 py-2">
      <p className="min-w-0 flex-1" aria-live="polite">
        <strong className="font-semibold">
          {at + 1} of {walk.steps.length}
        </strong>{' '}
        {walk.steps[at]?.says}
      </p>
      <button type="button" className="button" disabled={at === 0} onClick={() => onGo({ walk, at: at - 1 })}>
        Back
      </button>
      {last ? (
        <button type="button" className="button-main" onClick={() => onGo(null)}>
          End the walk
        </button>
      ) : (
        <>
          <button type="button" className="button-main" onClick={() => onGo({ walk, at: at + 1 })}>
            Next
          </button>
          <button type="button" className="link" onClick={() => onGo(null)}>
            leave it
          </button>
        </>
      )}
    </aside>
  );
}
