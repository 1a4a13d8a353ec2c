'use client';

import type { SheetModel } from '../sheet/model';
import { Panel } from './Panel';

/** The rows that stand out, each with its reasons; m and M walk them without the list. */
export function MarksPanel({
  model,
  rows,
  focused,
  onFocus,
  onClose,
}: {
  model: SheetModel;
  rows: number[];
  focused: number;
  onFocus(row: number): void;
  onClose(): void;
}) {
  return (
    <Panel
      title="What stands out"
      label="this sheet"
      onClose={onClose}
      right={<span className="text-soft">m and M walk them; an owner sets the rules under Settings</span>}
    >
      <ul>
        {rows.map((i) => {
          const row = model.rowAt(i);
          return (
            <li key={row?.key}>
              <button
                type="button"
                aria-current={i === focused}
                onClick={() => onFocus(i)}
                className={`grid w-full cursor-pointer grid-cols-[minmax(180px,1fr)_2.4fr] gap-3 border-b border-hair px-3 py-[3px] text-left ${i === focused ? 'bg-chosen' : 'hover:bg-chosen'}`}
              >
                <span className="truncate">{row?.label}</span>
                <span className="text-soft">{row?.standsOut?.join('; ')}</span>
              </button>
            </li>
          );
        })}
      </ul>
    </Panel>
  );
}
