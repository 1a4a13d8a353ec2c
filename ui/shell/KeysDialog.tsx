'use client';

import { useState } from 'react';
import { Modal, ModalClose } from '../parts/Modal';
import { letterKeysOn, setLetterKeys } from './keys';

/** The list of keys, and whether those that are a single character are on. */
export function KeysDialog({ keys, onClose }: { keys: readonly [string, string][]; onClose(): void }) {
  const [on, setOn] = useState(letterKeysOn);
  return (
    <Modal title="Keys" className="top-[8vh] max-h-[84vh] w-[920px] overflow-auto" onClose={onClose}>
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
      <ModalClose className="button-main mt-4">Close</ModalClose>
    </Modal>
  );
}
