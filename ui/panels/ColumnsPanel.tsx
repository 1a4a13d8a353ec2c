'use client';

import { Popover } from 'radix-ui';
import type { ColumnLayout } from '@/contracts/bodies/all';
import { reordered } from '../sheet/arrange';
import type { Column } from '../sheet/gridModel';
import type { GridTable } from '../sheet/useGridState';

interface Props {
  table: GridTable;
  /** All columns, as the sheet comes. */
  columns: readonly Column[];
  layout: ColumnLayout;
  onChange(layout: ColumnLayout | null): void;
}

const STEP_PX = 16;
const LEAST_PX = 48;

/** Which columns a sheet has, in which order and how wide: one's own, kept until one takes it back. */
export function ColumnsPanel({ table, columns, layout, onChange }: Props) {
  const byKey = new Map(columns.map((c) => [c.key, c]));
  const listed = table.getAllLeafColumns();
  const hidden = columns.filter((c) => layout.hidden.includes(c.key)).length;
  const touched =
    layout.order.length + layout.hidden.length + layout.shown.length + Object.keys(layout.widths).length > 0 ||
    layout.fit;
  const resize = (column: Column, by: number): void =>
    table.setColumnSizing((widths) => ({
      ...widths,
      [column.key]: Math.max(LEAST_PX, (widths[column.key] ?? pixels(column)) + by),
    }));
  const move = (key: string, to: string | undefined): void =>
    table.setColumnOrder((order) => reordered(order, key, to ?? ''));
  return (
    <Popover.Root>
      <Popover.Trigger
        className="cursor-pointer whitespace-nowrap hover:text-ink"
        title="Order, width and choice of columns, kept for you"
      >
        <span className="underline decoration-faint underline-offset-4">Arrange</span>
        {hidden > 0 && <span className="text-faint">, {hidden} hidden</span>}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          className="panel max-h-[70vh] w-[330px] overflow-auto p-3 text-[14px]"
        >
          <ul aria-label="Columns" className="mb-2">
            {listed.slice(1).map((c, i, rest) => {
              const column = byKey.get(c.id);
              if (!column) return null;
              return (
                <li key={c.id} className="flex items-center gap-1 py-[2px]">
                  <label className="flex min-w-0 flex-1 items-center gap-2">
                    <input
                      type="checkbox"
                      checked={c.getIsVisible()}
                      onChange={(event) => c.toggleVisibility(event.target.checked)}
                    />
                    <span className="truncate">{column.label}</span>
                  </label>
                  <Act label={`Narrower: ${column.label}`} onClick={() => resize(column, -STEP_PX)}>
                    −
                  </Act>
                  <Act label={`Wider: ${column.label}`} onClick={() => resize(column, STEP_PX)}>
                    +
                  </Act>
                  <Act label={`Forward: ${column.label}`} off={i === 0} onClick={() => move(c.id, rest[i - 1]?.id)}>
                    ↑
                  </Act>
                  <Act
                    label={`Back: ${column.label}`}
                    off={i === rest.length - 1}
                    onClick={() => move(c.id, rest[i + 1]?.id)}
                  >
                    ↓
                  </Act>
                </li>
              );
            })}
          </ul>
          <label className="flex items-center gap-2 border-t border-rule pt-2">
            <input
              type="checkbox"
              checked={layout.fit}
              onChange={(event) => onChange({ ...layout, fit: event.target.checked })}
            />
            Fit all columns into the window
          </label>
          <p className="mt-2 text-[12.5px] text-soft">
            Column heads can also be dragged, and their right edges pulled. It is kept for you alone.
          </p>
          <button type="button" className="button mt-2" disabled={!touched} onClick={() => onChange(null)}>
            As it comes
          </button>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

const Act = ({
  label,
  off = false,
  onClick,
  children,
}: {
  label: string;
  off?: boolean;
  onClick(): void;
  children: React.ReactNode;
}) => (
  <button
    type="button"
    aria-label={label}
    title={label.split(':')[0]}
    disabled={off}
    onClick={onClick}
    className="flex size-6 cursor-pointer items-center justify-center rounded-[2px] text-soft hover:bg-chosen hover:text-ink disabled:cursor-default disabled:opacity-30"
  >
    {children}
  </button>
);

/** What a column takes at least, of a width as the grid writes it. */
const pixels = (column: Column): number =>
  Math.round(Number(/(\d+)px\)?$/.exec(column.width)?.[1] ?? /(\d+)px/.exec(column.width)?.[1] ?? 110));
