'use client';

import { Dialog } from 'radix-ui';
import { useEntities } from '../query/hooks';
import { type Screen, traced } from '../thread/address';
import type { SheetRow } from './model';

const PLAIN: [string, string][] = [
  ['account', 'Account'],
  ['period', 'Period'],
  ['month', 'Month'],
  ['day', 'Day'],
  ['journal', 'Journal'],
  ['counterparty', 'Counterparty'],
  ['postedBy', 'Who posted'],
  ['currency', 'Transaction currency'],
  ['type', 'Account type'],
  ['entity', 'Entity'],
];

/** By what to break the focused figure down. */
export function SplitChooser({
  row,
  column,
  screen,
  onChosen,
  onClose,
}: {
  row: SheetRow;
  column: string;
  screen: Screen;
  onChosen(to: Screen): void;
  onClose(): void;
}) {
  const { data } = useEntities();
  const choices = [...(data?.dimensions ?? []).map((d): [string, string] => [`dim:${d.code}`, d.name]), ...PLAIN];
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-ink/20" />
        <Dialog.Content className="panel fixed top-[14vh] left-1/2 w-[360px] -translate-x-1/2 p-5" aria-describedby={undefined}>
          <Dialog.Title className="mb-3 font-book text-[18px] font-semibold">Split {row.label} by</Dialog.Title>
          <ul className="grid grid-cols-2">
            {choices.map(([by, name]) => (
              <li key={by}>
                <button
                  type="button"
                  className="block w-full cursor-pointer px-2 py-1 text-left hover:bg-chosen focus:bg-chosen"
                  onClick={() => {
                    onClose();
                    onChosen(traced(screen, { view: 'split', by, label: row.label, row: row.key, column, put: row.put ?? {} }));
                  }}
                >
                  {name}
                </button>
              </li>
            ))}
          </ul>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
