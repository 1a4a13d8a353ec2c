'use client';

import { wayHint } from '../help/hints';

/** One of several ways to show something, as words beside each other. */
export function Choice({
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
    <fieldset className="flex items-baseline gap-2 whitespace-nowrap">
      <legend className="float-left mr-2 text-faint">{label}</legend>
      {choices.map(([name, text]) => (
        <button
          key={name}
          type="button"
          aria-pressed={value === name}
          title={wayHint(label)}
          onClick={() => onChange(name)}
          className={`cursor-pointer ${value === name ? 'font-semibold text-ink underline decoration-1 underline-offset-4' : 'hover:text-ink'}`}
        >
          {text}
        </button>
      ))}
    </fieldset>
  );
}
