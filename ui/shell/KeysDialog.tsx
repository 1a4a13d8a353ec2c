'use client';

import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { letterKeysOn, setLetterKeys } from './keys';

const KEYS: [string, string][] = [
  ['Arrows, Home, End, Page up, Page down', 'move over the sheet'],
  ['Enter', 'trace the focused figure; with Ctrl in a new tab'],
  ['Backspace', 'up one strip'],
  ['[  ]', 'previous and next row of the sheet above'],
  [',  .', 'the unit before and the next one, where the sheet is of one unit'],
  ['Space', 'fold and unfold'],
  ['f', 'find a row of the sheet by part of its name; arrows to the next'],
  ['Shift with arrows, Shift Space', 'choose several rows'],
  ['s', 'split the focused figure, or the chosen rows'],
  ['d', 'draw a split: its rows as bars, as parts of the whole, over time'],
  ['c', 'columns to compare with: other windows, budgets, changes'],
  ['e  x', 'only what the cell or the chosen rows say; all but that'],
  ['b', 'the lines of the focused figure beside the sheet'],
  ['o', 'other side'],
  ['g', 'the focused figure over time'],
  ['w', 'what moved: what explains its change'],
  ['u', 'the accounts that are usual for the party of a line'],
  ['m  M', 'next and previous row that stands out'],
  ['n', 'note on the focused row'],
  ['p', 'pin the focused figure'],
  ['r', 'read again in place, when a newer load has come'],
  ['/', 'add a clause to the scope'],
  ['?', 'this list'],
];

export function KeysDialog({ onClose }: { onClose(): void }) {
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
            {KEYS.map(([key, act]) => (
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
            Single letters act as keys
          </label>
          <Dialog.Close className="button-main mt-4">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
