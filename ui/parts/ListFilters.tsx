'use client';

import { countText } from '../amounts';
import { Labelled } from './Place';
import { Select } from './Select';
import type { useListing } from './useListing';

/** What is above a list: where to find in it, what it is limited to, how many rows that leaves. */
export function ListFilters({
  list,
  placeholder,
  noun,
  children,
}: {
  list: Pick<ReturnType<typeof useListing>, 'find' | 'setFind' | 'offers' | 'chosen' | 'choose' | 'all'> & {
    rows: readonly unknown[];
  };
  placeholder: string;
  noun: string;
  children?: React.ReactNode;
}) {
  return (
    <div className="mb-3 flex flex-wrap items-end gap-x-3 gap-y-2">
      <Labelled label="Find">
        <input
          value={list.find}
          onChange={(event) => list.setFind(event.target.value)}
          placeholder={placeholder}
          className="field w-[150px]"
        />
      </Labelled>
      {list.offers.map((f) => (
        <Labelled key={f.key} label={f.label}>
          <Select
            value={list.chosen[f.key] ?? ''}
            onChange={(event) => list.choose(f.key, event.target.value)}
            className="field max-w-[140px]"
          >
            <option value="">any</option>
            {f.values.map((v) => (
              <option key={v}>{v}</option>
            ))}
          </Select>
        </Labelled>
      ))}
      {children}
      <p className="ml-auto pb-1.5 text-soft">
        {countText(list.rows.length)} of {countText(list.all)} {noun}
      </p>
    </div>
  );
}
