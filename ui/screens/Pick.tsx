'use client';

import { wayHint } from '../help/hints';
import { Select } from '../parts/Select';

/** One of several words beside its label, among the tools of a sheet. */
export function Pick({
  label,
  value,
  choices,
  onChange,
}: {
  label: string;
  value: string;
  choices: [string, string][];
  onChange(value: string): void;
}) {
  return (
    <label className="flex items-baseline gap-1.5 whitespace-nowrap">
      <span className="text-faint">{label}</span>
      <Select
        look="word"
        title={wayHint(label)}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        className="max-w-[150px]"
      >
        {choices.map(([key, name]) => (
          <option key={key} value={key}>
            {name}
          </option>
        ))}
      </Select>
    </label>
  );
}
