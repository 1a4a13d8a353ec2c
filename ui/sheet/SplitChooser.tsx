'use client';

import { Fragment, type KeyboardEvent, useEffect, useState } from 'react';
import { inBooks, type Screen, traced } from '../address/address';
import { splitChoices } from '../address/splitNames';
import { asIn } from '../keptThreads/way';
import { Modal } from '../parts/Modal';
import { useAnswer, useEntities, useKeptScopes, useThreads } from '../query/hooks';
import { keptPath } from '../scope/KeptScopes';
import type { SheetRow } from './model';
import { isCalled, listedSplits, recentSplits, rememberSplit } from './splitList';

/** So many kept ways stand below the splits; typed words find the rest. */
const WAYS_MAX = 6;

/** How long the chooser stands open before it is asked which splits tell most. */
const WEIGHED_AFTER_MS = 600;

const intoView = (option: HTMLElement | null): void => option?.scrollIntoView({ block: 'nearest' });

/** By what to break the focused figure down: typed into, in groups, with those that tell most of the figure. */
export function SplitChooser({
  row,
  column,
  screen,
  scope,
  onChosen,
  onClose,
}: {
  row: SheetRow;
  column: string;
  screen: Screen;
  /** What the row asks for. */
  scope: URLSearchParams;
  onChosen(to: Screen): void;
  onClose(): void;
}) {
  const { data } = useEntities();
  const threads = useThreads();
  const sentences = useKeptScopes();
  // Weighing every split takes long: whoever knows what they want has chosen by then.
  const [stays, setStays] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setStays(true), WEIGHED_AFTER_MS);
    return () => clearTimeout(timer);
  }, []);
  const weighed = useAnswer('GET /what-moved', stays ? inBooks(scope) : null);
  // A breakdown that was kept, in a thread or with a sentence, is taken by every figure: of the row, in its own window.
  const kept = [
    ...(threads.data?.rows ?? []).flatMap((t) =>
      t.address ? [{ name: t.name, address: t.address, of: 'thread' }] : [],
    ),
    ...(sentences.data?.rows ?? []).map((s) => ({ name: s.name, address: keptPath(s), of: 'sentence' })),
  ];
  const ways = kept.flatMap(({ name, address, of }) => {
    const to = row.put ? asIn(screen, address, { label: row.label, row: row.key, column, put: row.put }) : null;
    return to ? [{ name, of, to }] : [];
  });
  const choices = splitChoices(data?.dimensions);
  const telling = weighed.isPlaceholderData ? [] : (weighed.data?.dimensions ?? []);
  const [words, setWords] = useState('');
  const [at, setAt] = useState(0);
  const split = (by: string): void => {
    rememberSplit(by);
    onClose();
    onChosen(
      traced(screen, {
        view: 'split',
        by,
        label: row.label,
        row: row.key,
        column,
        put: row.put ?? {},
      }),
    );
  };
  const found: { name: string; group: string; tells: string | null; take(): void }[] = [
    ...listedSplits(choices, words, recentSplits(), telling).map((s) => ({ ...s, take: () => split(s.by) })),
    ...ways
      .filter((w) => isCalled(w.name, words))
      .slice(0, WAYS_MAX)
      .map(({ name, of, to }) => ({
        ...{ name, group: 'Trace as in a kept way', tells: of },
        take: () => {
          onClose();
          onChosen(to);
        },
      })),
  ];
  const onKey = (event: KeyboardEvent): void => {
    const act: Record<string, () => void> = {
      ArrowDown: () => setAt(Math.min(found.length - 1, at + 1)),
      ArrowUp: () => setAt(Math.max(0, at - 1)),
      Enter: () => found[at]?.take(),
    };
    if (!act[event.key]) return;
    event.preventDefault();
    act[event.key]?.();
  };
  return (
    <Modal title={<>Split {row.label} by</>} className="top-[8vh] w-[420px]" onClose={onClose}>
      <input
        autoFocus
        role="combobox"
        aria-expanded
        aria-controls="splits"
        aria-activedescendant={found[at] ? `split-${at}` : undefined}
        aria-label="Split by"
        autoComplete="off"
        value={words}
        onChange={(event) => {
          setWords(event.target.value);
          setAt(0);
        }}
        onKeyDown={onKey}
        placeholder="Vessel, counterparty, month …"
        className="field mb-2 w-full"
      />
      <div role="listbox" id="splits" aria-label="Splits" className="max-h-[52vh] overflow-auto">
        {found.map(({ name, group, tells, take }, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: two kept ways may have one name
          <Fragment key={`${group}/${name}/${i}`}>
            {group !== found[i - 1]?.group && (
              <p className="mt-2 mb-0.5 px-2 text-[12.5px] text-faint" aria-hidden>
                {group}
              </p>
            )}
            {/* biome-ignore lint/a11y/useFocusableInteractive: the field above keeps the focus and names the option */}
            {/* biome-ignore lint/a11y/useKeyWithClickEvents: see above */}
            <div
              id={`split-${i}`}
              role="option"
              aria-selected={i === at}
              ref={i === at ? intoView : undefined}
              onClick={take}
              className={`flex cursor-pointer items-baseline gap-3 px-2 py-[3px] hover:bg-chosen ${i === at ? 'bg-chosen' : ''}`}
            >
              <span className="min-w-0 truncate">{name}</span>
              {tells && <span className="ml-auto shrink-0 text-[12.5px] text-soft">{tells}</span>}
            </div>
          </Fragment>
        ))}
        {found.length === 0 && <p className="px-2 text-soft">Nothing to split by is called that.</p>}
      </div>
    </Modal>
  );
}
