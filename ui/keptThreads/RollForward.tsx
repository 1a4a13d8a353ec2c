'use client';

import Link from 'next/link';
import { countText } from '../amounts';
import { Modal, ModalClose } from '../parts/Modal';
import { Failure, Labelled } from '../parts/Place';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';
import { TOUCHES } from './words';

/** Begins the thread of another window from this one. */
export function RollForward({ threads, onClose }: { threads: readonly number[]; onClose(): void }) {
  const roll = useChange(
    (body: { from: string; to: string; folder: string }) =>
      ask('POST /threads/roll-forward', { body: { threads: [...threads], ...body } }),
    TOUCHES,
  );
  return (
    <Modal title="Roll forward" className="top-[16vh] w-[520px]" onClose={onClose}>
      {roll.data ? (
        <>
          <ul className="flex flex-col gap-1">
            {roll.data.threads.map((t) => (
              <li key={t.id}>
                <Link href={`/threads/${t.id}`} className="link" onClick={onClose}>
                  {t.name}
                </Link>
                {t.problems.map((problem) => (
                  <span key={problem} className="block text-[12.5px] text-warn">
                    {problem}
                  </span>
                ))}
              </li>
            ))}
          </ul>
          <ModalClose className="button-main mt-4">Close</ModalClose>
        </>
      ) : (
        <form
          className="flex flex-col gap-3"
          onSubmit={async (event) => {
            event.preventDefault();
            const form = new FormData(event.currentTarget);
            const text = (name: string): string => String(form.get(name) ?? '').trim();
            await roll.mutateAsync({ from: text('from'), to: text('to'), folder: text('folder') }).then(
              () => toast('Rolled forward'),
              () => null,
            );
          }}
        >
          <p className="text-soft">
            {threads.length === 1 ? 'The thread begins' : `${countText(threads.length)} threads begin`} anew for another
            window: the same purpose, assertions and steps with the figures of that window, nothing concluded, and the
            last conclusion at hand.
          </p>
          <div className="flex gap-3">
            <Labelled label="From period, such as 2027.07">
              <input name="from" required maxLength={20} className="field w-[150px]" />
            </Labelled>
            <Labelled label="to">
              <input name="to" required maxLength={20} className="field w-[150px]" />
            </Labelled>
          </div>
          <Labelled label="Folder; empty: the same" wide>
            <input name="folder" maxLength={200} placeholder="2027 Q3/Receivables" className="field w-full" />
          </Labelled>
          <Failure error={roll.error} />
          <div className="flex gap-2">
            <button type="submit" className="button-main" disabled={roll.isPending}>
              Roll forward
            </button>
            <ModalClose className="button">Cancel</ModalClose>
          </div>
        </form>
      )}
    </Modal>
  );
}
