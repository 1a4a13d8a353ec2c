'use client';

import { type PointerEvent, useState } from 'react';
import type { Column } from './gridModel';

const LEAST_COLUMN_PX = 48;

const DRAGGED = 'application/x-column';

interface HeadProps {
  column: Column;
  /** Whether the traced figure is the sum of its rows. */
  isTraced: boolean;
  sort: string | undefined;
  /** @param also after what it is sorted by already */
  onSort: ((column: string, also: boolean) => void) | undefined;
  onPull: ((px: number) => void) | undefined;
  onPulled(px: number | null): void;
  onMove: ((column: string, to: string) => void) | undefined;
}

export function Head({ column, isTraced, sort, onSort, onPull, onPulled, onMove }: HeadProps) {
  const word = sort?.split(',').find((w) => w.replace('-', '') === column.key);
  const sorted = word === undefined ? undefined : word.startsWith('-') ? 'descending' : 'ascending';
  const [over, setOver] = useState(false);
  const pull = (event: PointerEvent<HTMLElement>): void => {
    const head = event.currentTarget.parentElement as HTMLElement;
    const grip: HTMLElement = event.currentTarget;
    const start = head.getBoundingClientRect().width - event.clientX;
    const at = (e: globalThis.PointerEvent): number => Math.round(Math.max(LEAST_COLUMN_PX, start + e.clientX));
    event.preventDefault();
    grip.setPointerCapture(event.pointerId);
    const move = (e: globalThis.PointerEvent): void => onPull?.(at(e));
    grip.addEventListener('pointermove', move);
    grip.addEventListener(
      'pointerup',
      (e) => {
        grip.removeEventListener('pointermove', move);
        onPulled(at(e));
      },
      { once: true },
    );
  };
  return (
    // biome-ignore lint/a11y/useSemanticElements: see above
    <div
      role="columnheader"
      tabIndex={-1}
      aria-sort={sorted}
      title={column.hint}
      draggable={onMove !== undefined}
      onDragStart={(event) => event.dataTransfer.setData(DRAGGED, column.key)}
      onDragOver={(event) => {
        if (!onMove || !event.dataTransfer.types.includes(DRAGGED)) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        setOver(false);
        const key = event.dataTransfer.getData(DRAGGED);
        if (onMove && key && key !== column.key) onMove(key, column.key);
      }}
      className={`relative self-end py-[5px] leading-[16px] ${column.amount ? 'pr-2 text-right' : 'pl-1.5'} ${over ? 'bg-chosen' : ''} ${isTraced ? 'font-semibold text-ink' : ''}`}
    >
      {isTraced && (
        <span
          role="img"
          aria-label="What was traced"
          title="The figure that was traced is the sum of this column"
          className="mr-1.5 inline-block size-[8px] rounded-full bg-thread"
        />
      )}
      {column.sortable && onSort ? (
        <button
          type="button"
          onClick={(event) => onSort(column.key, event.shiftKey)}
          title="Sorts; with Shift, after what it is sorted by already"
          className="cursor-pointer hover:text-ink"
        >
          {column.label}
          {sorted && <span aria-hidden> {sorted === 'ascending' ? '↑' : '↓'}</span>}
        </button>
      ) : (
        column.label
      )}
      {onPull && (
        <span
          aria-hidden
          onPointerDown={pull}
          onDoubleClick={() => onPulled(null)}
          draggable
          onDragStart={(event) => {
            event.preventDefault();
            event.stopPropagation();
          }}
          className="absolute top-0 -right-[3px] bottom-0 z-10 w-[7px] cursor-col-resize border-r border-transparent hover:border-rule"
        />
      )}
    </div>
  );
}
