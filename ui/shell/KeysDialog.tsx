'use client';

import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { letterKeysOn, setLetterKeys } from './keys';

/** The list of keys, and whether those that are a single character are on. */
export function KeysDialog({ keys, onClose }: { keys: readonly [string, string][]; onClose(): void }) {
  const [on, setOn] = useState(letterKeysOn);
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-ink/20" />
        <Dialog.Content
          className="panel fixed top-[8vh] left-1/2 max-h-[84vh] w-[920px] max-w-[94vw] -translate-x-1/2 overflow-auto p-6"
          aria-describedby={undefined}
        >
          <Dialog.Title className="mb-3 font-book text-[19px] font-semibold">Keys</Dialog.Title>
          <dl className="columns-2 gap-8">
            {keys.map(([key, act]) => (
              <div key={key} className="grid break-inside-avoid grid-cols-[128px_1fr] gap-x-3 py-[3px]">
                <dt className="font-semibold">{key}</dt>
                <dd className="text-soft">{act}</dd>
              </div>
            ))}
          </dl>
          <label className="mt-4 flex items-center gap-2">
            <input
              type="checkbox"
              checked={on}
              onChange={(event) => {
                setLetterKeys(event.target.checked);
                setOn(event.target.checked);
              }}
            />
            Single letters and signs act as keys
          </label>
          <Dialog.Close className="button-main mt-4">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
