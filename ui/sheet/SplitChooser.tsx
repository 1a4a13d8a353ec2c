'use client';

import { Dialog } from 'radix-ui';
import { type Screen, traced } from '../address/address';
import { splitChoices } from '../address/splitNames';
import { asIn } from '../keptThreads/way';
import { useAnswer, useEntities, useThreads } from '../query/hooks';
import type { SheetRow } from './model';

/** The saved threads that were gone on with last. */
const WAYS_MAX = 6;

/** Splits that the server translates: by company, and by what the chart tells. */
const isTranslated = (by: string): boolean => by === 'entity' || by === 'type' || by.startsWith('account');

/** By what to break the focused figure down. */
export function SplitChooser({
  row,
  column,
  screen,
  scope,
  translated,
  onChosen,
  onClose,
}: {
  row: SheetRow;
  column: string;
  screen: Screen;
  /** What the row asks for. */
  scope: URLSearchParams;
  /** Some of the books are in another currency than the sheet. */
  translated: boolean;
  onChosen(to: Screen): void;
  onClose(): void;
}) {
  const { data } = useEntities();
  const threads = useThreads();
  const weighed = useAnswer('GET /what-moved', scope);
  const [telling] = weighed.isPlaceholderData ? [] : (weighed.data?.dimensions ?? []);
  const ways = (threads.data?.rows ?? []).flatMap((t) => {
    const to =
      t.address && row.put ? asIn(screen, t.address, { label: row.label, row: row.key, column, put: row.put }) : null;
    return to ? [{ ...t, to }] : [];
  });
  const all = splitChoices(data?.dimensions);
  // Books in several currencies have to be told apart before anything else can be.
  const apart = translated && scope.getAll('entity').length !== 1;
  const choices = apart ? all.filter(([by]) => isTranslated(by)) : all;
  const split = (by: string): void => {
    onClose();
    const put = row.put ?? {};
    // What is not translated is asked in the currency of the company's own books.
    onChosen(
      traced(screen, {
        view: 'split',
        by,
        label: row.label,
        row: row.key,
        column,
        put: translated && !isTranslated(by) ? { ...put, in: [''] } : put,
      }),
    );
  };
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-ink/20" />
        <Dialog.Content
          className="panel fixed top-[8vh] left-1/2 w-[420px] -translate-x-1/2 p-5"
          aria-describedby={undefined}
        >
          <Dialog.Title className="mb-3 font-book text-[18px] font-semibold">Split {row.label} by</Dialog.Title>
          {telling && telling.members > 1 && (
            <button
              type="button"
              className="mb-2 block w-full cursor-pointer border border-rule px-2 py-1 text-left hover:bg-chosen focus:bg-chosen"
              onClick={() => split(telling.by)}
            >
              <strong className="font-semibold">{telling.name}</strong>{' '}
              <span className="text-soft">
                tells most: {telling.concentration} of {telling.members} make 80 % of the change on the year before
              </span>
            </button>
          )}
          <ul className="grid grid-cols-2">
            {choices.map(([by, name]) => (
              <li key={by}>
                <button
                  type="button"
                  className="block w-full cursor-pointer px-2 py-1 text-left hover:bg-chosen focus:bg-chosen"
                  onClick={() => split(by)}
                >
                  {name}
                </button>
              </li>
            ))}
          </ul>
          {apart && (
            <p className="mt-3 text-soft">
              These books are in several currencies: by anything else once they are split by entity.
            </p>
          )}
          {ways.length > 0 && (
            <>
              <h3 className="mt-4 mb-1 text-[12.5px] text-soft">Or trace it as in a saved thread</h3>
              <ul>
                {ways.slice(0, WAYS_MAX).map((t) => (
                  <li key={t.id}>
                    <button
                      type="button"
                      className="block w-full cursor-pointer truncate px-2 py-1 text-left hover:bg-chosen focus:bg-chosen"
                      onClick={() => {
                        onClose();
                        onChosen(t.to);
                      }}
                    >
                      {t.name}
                    </button>
                  </li>
                ))}
              </ul>
            </>
          )}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
