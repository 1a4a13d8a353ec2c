'use client';

import { Popover } from 'radix-ui';
import { type DragEvent, type KeyboardEvent, useEffect, useRef, useState } from 'react';

/** Splits nested in one another; more nobody reads. */
export const LEVELS_MAX = 8;

export interface Layout {
  /** What rows are split by, the outermost first. */
  rows: string[];
  /** What is on the columns; empty for nothing. */
  across: string;
}

type Lane = 'rows' | 'columns' | 'waiting';

/**
 * A layout with one thing put into a lane, before another there or at its end. Columns hold one thing, and rows always
 * have one: whatever it takes the place of changes places with it.
 */
export function laidOut({ rows, across }: Layout, what: string, lane: Lane, before: string | null = null): Layout {
  const rest = rows.filter((r) => r !== what);
  const left = across === what ? '' : across;
  if (lane === 'columns') {
    const kept = rest.length > 0 ? rest : left ? [left] : [];
    return kept.length > 0 ? { rows: kept, across: what } : { rows, across };
  }
  if (lane === 'waiting')
    return rest.length > 0 ? { rows: rest, across: left } : left ? { rows: [left], across: '' } : { rows, across };
  const at = before === null ? rest.length : rest.indexOf(before);
  const next = [...rest.slice(0, at < 0 ? rest.length : at), what, ...(at < 0 ? [] : rest.slice(at))];
  return next.length > LEVELS_MAX ? { rows, across } : { rows: next, across: left };
}

/** The crosstab as three lanes of words to be dragged, or moved with the arrow keys. */
export function CrosstabLayout({
  layout,
  choices,
  onChange,
}: {
  layout: Layout;
  choices: [string, string][];
  onChange(layout: Layout): void;
}) {
  const held = useRef<string | null>(null);
  const moved = useRef<{ what: string; from: string } | null>(null);
  const shape = `${layout.rows.join('|')} ${layout.across}`;
  const [over, setOver] = useState<Lane | null>(null);
  const box = useRef<HTMLDivElement>(null);
  const nameOf = new Map(choices);
  const waiting = choices.map(([key]) => key).filter((key) => !layout.rows.includes(key) && key !== layout.across);
  const lanes: [Lane, string, string[]][] = [
    ['rows', 'Rows, the outermost first', layout.rows],
    ['columns', 'Columns', layout.across ? [layout.across] : []],
    ['waiting', 'Not used', waiting],
  ];
  const move = (what: string, lane: Lane, before: string | null = null): void => {
    moved.current = { what, from: shape };
    onChange(laidOut(layout, what, lane, before));
  };
  // The word that was moved keeps the keyboard, wherever it went.
  useEffect(() => {
    if (!moved.current || moved.current.from === shape) return;
    box.current?.querySelector<HTMLElement>(`[data-word="${CSS.escape(moved.current.what)}"]`)?.focus();
    moved.current = null;
  }, [shape]);
  const onKey = (event: KeyboardEvent, what: string, lane: Lane): void => {
    const at = layout.rows.indexOf(what);
    const order: Lane[] = ['rows', 'columns', 'waiting'];
    const acts: Record<string, () => void> = {
      ArrowRight: () => move(what, order[order.indexOf(lane) + 1] ?? lane),
      ArrowLeft: () => move(what, order[order.indexOf(lane) - 1] ?? lane),
      ArrowUp: () => lane === 'rows' && at > 0 && move(what, 'rows', layout.rows[at - 1]),
      ArrowDown: () =>
        lane === 'rows' && at < layout.rows.length - 1 && move(what, 'rows', layout.rows[at + 2] ?? null),
    };
    if (!acts[event.key]) return;
    event.preventDefault();
    acts[event.key]?.();
  };
  const onDrop = (event: DragEvent, lane: Lane, before: string | null): void => {
    event.preventDefault();
    event.stopPropagation();
    setOver(null);
    if (held.current && held.current !== before) move(held.current, lane, before);
    held.current = null;
  };
  return (
    <Popover.Root>
      <Popover.Trigger
        className="cursor-pointer whitespace-nowrap underline decoration-faint underline-offset-4 hover:text-ink"
        title="What is in rows and what across, by dragging or by keys"
      >
        Lay out
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          ref={box}
          align="start"
          sideOffset={6}
          className="panel w-[620px] p-3 text-[14px]"
          aria-label="Lay out rows and columns"
        >
          <div className="grid grid-cols-[1fr_1fr_1.3fr] gap-3">
            {lanes.map(([lane, name, words]) => (
              <section
                key={lane}
                aria-label={name}
                onDragOver={(event) => {
                  event.preventDefault();
                  setOver(lane);
                }}
                onDrop={(event) => onDrop(event, lane, null)}
                className={`min-h-[120px] border p-2 ${over === lane ? 'border-ink bg-chosen' : 'border-rule'}`}
              >
                <h3 className="mb-2 text-[12.5px] text-soft">{name}</h3>
                <ul className="flex flex-wrap gap-1.5">
                  {words.map((what) => (
                    <li key={what}>
                      <button
                        type="button"
                        draggable
                        data-word={what}
                        onDragStart={(event) => {
                          held.current = what;
                          event.dataTransfer.effectAllowed = 'move';
                          event.dataTransfer.setData('text/plain', what);
                        }}
                        onDragEnd={() => setOver(null)}
                        onDrop={(event) => onDrop(event, lane, lane === 'rows' ? what : null)}
                        onKeyDown={(event) => onKey(event, what, lane)}
                        className="min-h-[26px] cursor-grab rounded-[2px] border border-rule bg-sheet px-2 hover:border-ink"
                      >
                        {nameOf.get(what) ?? what}
                      </button>
                    </li>
                  ))}
                  {words.length === 0 && <li className="text-faint">drop a word here</li>}
                </ul>
              </section>
            ))}
          </div>
          <p className="mt-2 text-[12.5px] text-soft">
            Drag a word, or move it with the arrow keys. The sheet follows at once.
          </p>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
