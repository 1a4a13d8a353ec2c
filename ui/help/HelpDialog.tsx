'use client';

import { usePathname } from 'next/navigation';
import { Modal, ModalClose } from '../parts/Modal';
import { useEntities } from '../query/hooks';
import { helpFor } from './pages';
import { WALKS, type Walk } from './walks';

/** The company of the demo world, in which walks are gone. */
const DEMO = { code: 'KSF', name: 'Kestrel Sound Ferries Ltd' };

/** The page of help for where one is, and the walks that can be begun. */
export function HelpDialog({ onClose, onWalk }: { onClose(): void; onWalk(walk: Walk): void }) {
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
