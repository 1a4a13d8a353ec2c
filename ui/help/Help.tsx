'use client';

import { usePathname, useRouter } from 'next/navigation';
import { createContext, type ReactNode, useContext, useEffect, useState } from 'react';
import { Modal, ModalClose } from '../parts/Modal';
import { useEntities } from '../query/hooks';
import { helpFor } from './pages';
import { WALKS, type Walk } from './walks';

const OpenHelp = createContext<() => void>(() => {});
/** Opens the page of help for where one is. */
export const useHelp = (): (() => void) => useContext(OpenHelp);

const KEPT = 'walk';
/** The company of the demo world, in which walks are gone. */
const DEMO = { code: 'KSF', name: 'Kestrel Sound Ferries Ltd' };

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

function HelpDialog({ onClose, onWalk }: { onClose(): void; onWalk(walk: Walk): void }) {
  const page = helpFor(usePathname());
  const { data } = useEntities();
  const isDemo = data?.entities.some((e) => e.code === DEMO.code && e.name === DEMO.name);
  return (
    <Modal title={page.title} tight className="top-[8vh] max-h-[84vh] w-[720px] overflow-auto" onClose={onClose}>
      <p className="mb-3 max-w-[70ch]">{page.says}</p>
      <dl className="border-t border-rule">
        {page.points.map(([what, how]) => (
          <div key={what} className="grid grid-cols-[170px_1fr] gap-x-4 border-b border-hair py-1.5">
            <dt className="font-semibold">{what}</dt>
            <dd className="text-soft">{how}</dd>
          </div>
        ))}
      </dl>
      {isDemo && (
        <>
          <h3 className="mt-4 mb-1 font-semibold">Walks through the demo world</h3>
          <ul>
            {WALKS.map((walk) => (
              <li key={walk.key}>
                <button
                  type="button"
                  onClick={() => onWalk(walk)}
                  className="block w-full cursor-pointer px-2 py-1 text-left hover:bg-chosen focus:bg-chosen"
                >
                  {walk.title} <span className="text-faint">{walk.steps.length} steps</span>
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
      <p className="mt-4 flex items-center gap-4">
        <ModalClose className="button-main">Close</ModalClose>
        <span className="text-soft">On a sheet, ? lists all keys.</span>
      </p>
    </Modal>
  );
}
