'use client';

import { Popover } from 'radix-ui';
import type { ColumnLayout } from '@/contracts/bodies';
import { inOrder, isShown, moved, withShown } from '../sheet/arrange';
import type { Column } from '../sheet/gridModel';

interface Props {
  /** All columns, as the sheet comes. */
  columns: readonly Column[];
  layout: ColumnLayout;
  onChange(layout: ColumnLayout | null): void;
}

const STEP_PX = 16;
const LEAST_PX = 48;

/** Which columns a sheet has, in which order and how wide: one's own, kept until one takes it back. */
export function ColumnsPanel({ columns, layout, onChange }: Props) {
  const ordered = inOrder(columns, layout.order);
  const hidden = columns.filter((c) => layout.hidden.includes(c.key)).length;
  const touched =
    layout.order.length + layout.hidden.length + layout.shown.length + Object.keys(layout.widths).length > 0 ||
    layout.fit;
  const resize = (column: Column, by: number): void => {
    const now = layout.widths[column.key] ?? pixels(column);
    onChange({ ...layout, widths: { ...layout.widths, [column.key]: Math.max(LEAST_PX, now + by) } });
  };
  return (
    <Popover.Root>
      <Popover.Trigger className="cursor-pointer whitespace-nowrap hover:text-ink">
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
            {ordered.slice(1).map((c, i, rest) => (
              <li key={c.key} className="flex items-center gap-1 py-[2px]">
                <label className="flex min-w-0 flex-1 items-center gap-2">
                  <input
                    type="checkbox"
                    checked={isShown(c, layout)}
                    onChange={(event) => onChange(withShown(layout, c, event.target.checked))}
                  />
                  <span className="truncate">{c.label}</span>
                </label>
                <Act label={`Narrower: ${c.label}`} onClick={() => resize(c, -STEP_PX)}>
                  −
                </Act>
                <Act label={`Wider: ${c.label}`} onClick={() => resize(c, STEP_PX)}>
                  +
                </Act>
                <Act
                  label={`Forward: ${c.label}`}
                  off={i === 0}
                  onClick={() => onChange({ ...layout, order: moved(ordered, c.key, rest[i - 1]?.key ?? '') })}
                >
                  ↑
                </Act>
                <Act
                  label={`Back: ${c.label}`}
                  off={i === rest.length - 1}
                  onClick={() => onChange({ ...layout, order: moved(ordered, c.key, rest[i + 1]?.key ?? '') })}
                >
                  ↓
                </Act>
              </li>
            ))}
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
