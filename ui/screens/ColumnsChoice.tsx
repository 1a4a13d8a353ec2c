'use client';

import { Popover } from 'radix-ui';
import { useState } from 'react';

const COMPARED: [string, string][] = [
  ['ytd', 'Year to date'],
  ['year-before', 'The same window a year before'],
  ['change:year-before', 'Change from a year before'],
  ['change%:year-before', 'Change from a year before, %'],
  ['ytd-before', 'Year to date, a year before'],
  ['window-before', 'The window before'],
  ['change:window-before', 'Change from the window before'],
  ['last-year', 'Last fiscal year, or its end'],
  ['trailing-12', 'Trailing twelve periods'],
  ['share', 'Share of the base row, %'],
  ['share:ytd', 'Share, year to date, %'],
];

/** Which columns stand beside the window. They are kept when rows are opened further, since they are in the address. */
export function ColumnsChoice({
  budgets: versions,
  shares,
  chosen,
  onChange,
}: {
  budgets: string[];
  shares: boolean;
  chosen: string[];
  onChange(keys: string[]): void;
}) {
  const budgets = versions.flatMap((v): [string, string][] => [
    [`budget:${v}`, `Budget ${v}`],
    [`variance:${v}`, `Variance from budget ${v}`],
  ]);
  // What is ticked shows at once; the address follows.
  const [ticked, setTicked] = useState(chosen);
  const put = (keys: string[]): void => {
    setTicked(keys);
    onChange(keys);
  };
  const all = [...COMPARED.filter(([key]) => shares || !key.startsWith('share')), ...budgets];
  return (
    <Popover.Root onOpenChange={() => setTicked(chosen)}>
      <Popover.Trigger className="cursor-pointer whitespace-nowrap hover:text-ink">
        <span className="text-faint">Columns</span>{' '}
        <span className="underline decoration-faint underline-offset-4">{chosen.length === 0 ? 'this window' : `this window and ${chosen.length} more`}</span>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="start" sideOffset={6} className="panel w-[300px] p-3 text-[14px]">
          <fieldset>
            <legend className="mb-1 text-soft">Beside this window</legend>
            {all.map(([key, label]) => (
              <label key={key} className="flex items-center gap-2 py-[3px]">
                <input
                  type="checkbox"
                  checked={ticked.includes(key)}
                  onChange={(event) =>
                    put(event.target.checked ? all.map(([k]) => k).filter((k) => k === key || ticked.includes(k)) : ticked.filter((k) => k !== key))
                  }
                />
                {label}
              </label>
            ))}
          </fieldset>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
