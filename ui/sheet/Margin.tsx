'use client';

import { type FormEvent, useLayoutEffect, useRef, useState } from 'react';
import type { Note, Pin } from '@/contracts/answers/evidence';
import type { Measure } from '@/contracts/traced';
import { amountText, countText, momentText } from '../amounts';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';
import { useMe } from '../shell/me';
import { INK } from './ink';
import { ROW_PX } from './useRows';

const HEAD_PX = 27;
const GAP_PX = 6;

export interface MarginItem {
  row: number;
  note?: Note;
  pin?: Pin;
  /** A note that is being written. */
  draft?: { subject: string; measure: Measure | null; label: string };
}

interface Props {
  items: MarginItem[];
  scrollTop: number;
  open: boolean;
  onOpen(open: boolean): void;
  onDraftDone(): void;
  address: string;
  onPin(pin: Pin): void;
}

/** Notes and pins level with the rows that they speak of; where they would overlap, the later one moves down. */
export function Margin({ items, scrollTop, open, onOpen, onDraftDone, address, onPin }: Props) {
  const [heights, setHeights] = useState<Record<string, number>>({});
  const box = useRef<HTMLDivElement>(null);
  const keys = items.map(keyOf).join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: measured again when the cards change
  useLayoutEffect(() => {
    const found: Record<string, number> = {};
    for (const card of box.current?.querySelectorAll<HTMLElement>('[data-card]') ?? [])
      found[card.dataset.card ?? ''] = card.offsetHeight;
    setHeights((held) => (JSON.stringify(held) === JSON.stringify(found) ? held : found));
  }, [keys, open, items]);

  let bottom = 0;
  const placed = [...items]
    .sort((a, b) => a.row - b.row)
    .map((item) => {
      const level = HEAD_PX + item.row * ROW_PX - scrollTop + 3;
      const top = Math.max(level, bottom);
      if (level > -60) bottom = top + (heights[keyOf(item)] ?? 46) + GAP_PX;
      return { item, level, top };
    });

  return (
    <aside
      aria-label="Margin"
      className={`relative shrink-0 overflow-hidden ${open ? 'w-[244px]' : 'w-[26px]'}`}
      ref={box}
    >
      <button
        type="button"
        onClick={() => onOpen(!open)}
        aria-expanded={open}
        title={open ? 'Close the margin' : 'Open the margin'}
        className="absolute top-0 right-0 z-10 cursor-pointer bg-paper px-1 text-[12.5px] text-faint hover:text-ink"
      >
        {open ? 'Margin ›' : '‹'}
      </button>
      {placed.map(({ item, level, top }) =>
        open ? (
          <div
            key={keyOf(item)}
            data-card={keyOf(item)}
            className="absolute right-0 left-[14px]"
            style={{ top: Math.max(top, item.draft ? HEAD_PX : top) }}
          >
            {level > 0 && <span aria-hidden className="absolute -left-[14px] top-[9px] w-[9px] border-t border-ink" />}
            {item.draft ? (
              <Draft {...item.draft} address={address} onDone={onDraftDone} />
            ) : item.note ? (
              <NoteCard note={item.note} />
            ) : item.pin ? (
              <PinCard pin={item.pin} onOpen={onPin} />
            ) : null}
          </div>
        ) : (
          <button
            key={keyOf(item)}
            type="button"
            aria-label={item.note ? 'Note' : 'Pin'}
            onClick={() => onOpen(true)}
            className={`absolute left-[8px] cursor-pointer ${inkOf(item)}`}
            style={{ top: level }}
          >
            {item.pin ? '▪' : '^'}
          </button>
        ),
      )}
    </aside>
  );
}

const keyOf = (i: MarginItem): string => (i.draft ? 'draft' : i.note ? `note-${i.note.id}` : `pin-${i.pin?.id}`);
const inkOf = (i: MarginItem): string => INK[(i.note ?? i.pin)?.ink ?? 'preparer'];

function NoteCard({ note }: { note: Note }) {
  const restore = useChange((id: number) => ask('PUT /notes/{id}', { path: { id } }), ['/notes']);
  const remove = useChange((id: number) => ask('DELETE /notes/{id}', { path: { id } }), ['/notes']);
  const takeAway = async (): Promise<void> => {
    await remove.mutateAsync(note.id);
    toast('Note removed', { action: { label: 'Undo', onClick: () => restore.mutate(note.id) } });
  };
  return (
    <article className={INK[note.ink]}>
      <p className="line-clamp-6 leading-[18px] whitespace-pre-wrap" title={note.body}>
        {note.body}
      </p>
      <p className="text-[12.5px] leading-4 text-faint">
        {note.by}, {momentText(note.at)}
        {note.mine && (
          <button
            type="button"
            onClick={takeAway}
            className="ml-2 cursor-pointer underline decoration-rule underline-offset-2 hover:text-ink"
          >
            remove
          </button>
        )}
      </p>
    </article>
  );
}

function PinCard({ pin, onOpen }: { pin: Pin; onOpen(pin: Pin): void }) {
  const ink = `border-current ${INK[pin.ink]}`;
  return (
    <button
      type="button"
      onClick={() => onOpen(pin)}
      className={`block w-full cursor-pointer rounded-[2px] border bg-sheet px-2 py-1 text-left ${ink}`}
    >
      <strong className="block truncate font-semibold">Pinned {amountText(pin.value)}</strong>
      {pin.state === 'fresh' ? (
        <span className="block text-[12.5px] leading-4 text-soft">
          as of load {pin.load}, unchanged since · {countText(pin.lines)} {pin.lines === 1 ? 'line' : 'lines'}
        </span>
      ) : (
        <span className="block text-[12.5px] leading-4 text-warn">
          ≠ drifted: now {pin.now === null ? 'gone' : amountText(pin.now)}, {countText(pin.drift.length)}
          {pin.driftMore ? ' or more' : ''} {pin.drift.length === 1 ? 'line' : 'lines'} moved
        </span>
      )}
    </button>
  );
}

function Draft({
  subject,
  measure,
  label,
  address,
  onDone,
}: {
  subject: string;
  measure: Measure | null;
  label: string;
  address: string;
  onDone(): void;
}) {
  const { role } = useMe();
  const write = useChange(
    (body: string) => ask('POST /notes', { body: { subject, measure, label, address, body } }),
    ['/notes'],
  );
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const body = String(new FormData(event.currentTarget).get('body') ?? '').trim();
    if (body === '') return;
    await write.mutateAsync(body);
    onDone();
  };
  return (
    <form onSubmit={submit} className="panel relative p-2">
      <textarea
        autoFocus
        name="body"
        rows={3}
        maxLength={4000}
        aria-label={`Note on ${label}`}
        placeholder={`Note on ${label}`}
        className={`field h-auto max-h-[50vh] min-h-[76px] w-full resize-none py-1 [field-sizing:content] ${role === 'reviewer' || role === 'reader' ? INK[role] : INK.preparer}`}
        onKeyDown={(event) => {
          if (event.key === 'Escape') onDone();
          if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) event.currentTarget.form?.requestSubmit();
          event.stopPropagation();
        }}
      />
      {write.error && (
        <p role="alert" className="text-[12.5px] text-warn">
          {write.error.message}
        </p>
      )}
      <div className="mt-1 flex gap-2">
        <button type="submit" disabled={write.isPending} className="button-main h-7 px-2">
          Write note
        </button>
        <button type="button" onClick={onDone} className="button h-7 px-2">
          Cancel
        </button>
      </div>
    </form>
  );
}
