'use client';

import { Popover } from 'radix-ui';
import { useLayoutEffect, useRef, useState } from 'react';
import type { EvidenceFile, Pin } from '@/contracts/answers/evidence';
import {
  ExpectationCard,
  FileCard,
  FindingCard,
  NoteCard,
  PinCard,
  PointCard,
  ProposedCard,
  QuestionCard,
  TickCard,
} from '../evidence/cards';
import { Draft } from '../evidence/Draft';
import { hide, KINDS, type Kind, toggledIn, useHidden } from '../evidence/shownKinds';
import { INK } from './ink';
import { keyOfItem, type MarginItem, signsOf } from './marginItems';
import { ROW_PX } from './useRows';

const HEAD_PX = 27;
const GAP_PX = 6;

interface Props {
  items: MarginItem[];
  /** Who made anything that could be shown. */
  people: readonly string[];
  /** Ticks are told in words beside the focused row alone; on the others their marks stand. */
  focusedRow: number;
  scrollTop: number;
  open: boolean;
  onOpen(open: boolean): void;
  onDraftDone(): void;
  address: string;
  thread: number | null;
  onPin(pin: Pin): void;
  onFile(file: EvidenceFile): void;
}

/** Evidence level with the rows that it speaks of; where cards would overlap, the later one moves down. */
export function Margin(props: Props) {
  const { scrollTop, open, onOpen, focusedRow } = props;
  const items = props.items.filter((i) => i.is !== 'ticks' || !open || i.row === focusedRow);
  const [heights, setHeights] = useState<Record<string, number>>({});
  const [height, setHeight] = useState(0);
  const box = useRef<HTMLDivElement>(null);
  const keys = items.map(keyOfItem).join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: measured again when the cards change, and as they grow
  useLayoutEffect(() => {
    const measure = (): void => {
      const found: Record<string, number> = {};
      for (const card of box.current?.querySelectorAll<HTMLElement>('[data-card]') ?? [])
        found[card.dataset.card ?? ''] = card.offsetHeight;
      setHeight(box.current?.clientHeight ?? 0);
      setHeights((held) => (JSON.stringify(held) === JSON.stringify(found) ? held : found));
    };
    measure();
    const grown = new ResizeObserver(measure);
    for (const card of box.current?.querySelectorAll('[data-card]') ?? []) grown.observe(card);
    return () => grown.disconnect();
  }, [keys, open]);

  let bottom = 0;
  const placed = [...items]
    .sort((a, b) => a.row - b.row)
    .map((item) => {
      const level = HEAD_PX + item.row * ROW_PX - scrollTop + 3;
      const top = Math.max(level, bottom);
      if (level > -60) bottom = top + (heights[keyOfItem(item)] ?? 46) + GAP_PX;
      return { item, level, top };
    });

  // What is being written, and what is said of the focused row, is in sight however far down the row is.
  const foot = Math.max(
    0,
    ...placed
      .filter(({ item }) => item.is === 'draft' || item.row === focusedRow)
      .map(({ item, top }) => top + (heights[keyOfItem(item)] ?? 46) + GAP_PX),
  );
  const up = open && foot > height && height > 0 ? foot - height : 0;

  return (
    <aside
      aria-label="Margin"
      // A field that is written in brings itself in sight; here everything is where it belongs.
      onScroll={(event) => {
        event.currentTarget.scrollTop = 0;
      }}
      className={`relative shrink-0 overflow-hidden ${open ? 'w-[256px]' : 'w-[26px]'}`}
      ref={box}
    >
      <div className="absolute top-0 right-0 z-10 flex gap-3 bg-paper pl-2 text-[12.5px] text-faint">
        {open && <Shown people={props.people} />}
        <button
          type="button"
          onClick={() => onOpen(!open)}
          aria-expanded={open}
          title={open ? 'Close the margin' : 'Open the margin'}
          className="cursor-pointer px-1 hover:text-ink"
        >
          {open ? 'Margin ›' : '‹'}
        </button>
      </div>
      {placed.map(({ item, level, top }) =>
        open ? (
          <div
            key={keyOfItem(item)}
            data-card={keyOfItem(item)}
            className="absolute right-0 left-[14px]"
            style={{ top: Math.max(top, item.is === 'draft' ? HEAD_PX : top) - up }}
          >
            {level > 0 && up === 0 && (
              <span aria-hidden className="absolute -left-[14px] top-[9px] w-[9px] border-t border-ink" />
            )}
            <Card item={item} {...props} />
          </div>
        ) : (
          signsOf(item)
            .filter(({ sign }) => sign !== 'tick')
            .map(({ sign, says, ink }) => (
              <button
                key={`${keyOfItem(item)}${sign}`}
                type="button"
                aria-label={says}
                onClick={() => onOpen(true)}
                className={`absolute left-[8px] cursor-pointer ${ink ? INK[ink] : 'text-warn'}`}
                style={{ top: level }}
              >
                {sign}
              </button>
            ))
        ),
      )}
    </aside>
  );
}

function Card({ item, address, thread, onDraftDone, onPin, onFile }: Props & { item: MarginItem }) {
  switch (item.is) {
    case 'note':
      return <NoteCard note={item.note} replies={item.replies} files={item.files} />;
    case 'pin':
      return <PinCard pin={item.pin} onOpen={onPin} />;
    case 'ticks':
      return <TickCard ticks={item.ticks} />;
    case 'file':
      return <FileCard file={item.file} onOpen={onFile} />;
    case 'point':
      return <PointCard point={item.point} />;
    case 'question':
      return <QuestionCard question={item.question} />;
    case 'finding':
      return <FindingCard finding={item.finding} />;
    case 'expectation':
      return <ExpectationCard expectation={item.expectation} />;
    case 'proposed':
      return <ProposedCard proposed={item.proposed} />;
    case 'draft':
      return <Draft kind={item.kind} about={item.about} address={address} thread={thread} onDone={onDraftDone} />;
  }
}

/** Which kinds, and whose, are shown on every sheet: a clean one or one with all its remarks. */
function Shown({ people }: { people: readonly string[] }) {
  const hidden = useHidden();
  const all = Object.keys(KINDS) as Kind[];
  const some = hidden.kinds.length + hidden.people.length > 0;
  return (
    <Popover.Root>
      <Popover.Trigger
        className="cursor-pointer hover:text-ink"
        title="Which remarks are shown, of all kinds and people"
      >
        {hidden.kinds.length === all.length ? 'none shown' : some ? 'some shown' : 'all shown'}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="end" sideOffset={4} className="panel z-40 w-[220px] p-3 text-[13px]">
          <button
            type="button"
            className="link mb-2"
            onClick={() => hide({ kinds: hidden.kinds.length === all.length ? [] : all, people: [] })}
          >
            {hidden.kinds.length === all.length ? 'Show all' : 'Show none: a clean sheet'}
          </button>
          <fieldset>
            <legend className="text-[12.5px] text-soft">Of these kinds</legend>
            {all.map((kind) => (
              <Check
                key={kind}
                name={KINDS[kind]}
                on={!hidden.kinds.includes(kind)}
                act={() => hide({ ...hidden, kinds: toggledIn(hidden.kinds, kind) })}
              />
            ))}
          </fieldset>
          {people.length > 0 && (
            <fieldset className="mt-2">
              <legend className="text-[12.5px] text-soft">By these people</legend>
              {people.map((name) => (
                <Check
                  key={name}
                  name={name}
                  on={!hidden.people.includes(name)}
                  act={() => hide({ ...hidden, people: toggledIn(hidden.people, name) })}
                />
              ))}
            </fieldset>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

const Check = ({ name, on, act }: { name: string; on: boolean; act(): void }) => (
  <label className="flex cursor-pointer items-center gap-2 py-[1px]">
    <input type="checkbox" checked={on} onChange={act} />
    {name}
  </label>
);
