'use client';

import type { OutlineRow } from '@/core/statement';
import { Labelled } from '../parts/Place';

/** Languages in which the application itself knows captions; others come with the names that an outline has. */
const LANGUAGES = ['nb', 'de', 'fr'];

/** What a row is called in other languages. */
export function RowNames({
  names,
  label,
  onChange,
}: {
  names: Record<string, string>;
  label: string;
  onChange(names: Record<string, string>): void;
}) {
  const languages = [...new Set([...LANGUAGES, ...Object.keys(names)])];
  const words = new Intl.DisplayNames(['en'], { type: 'language' });
  return (
    <details className="mt-3">
      <summary className="cursor-pointer text-[12.5px] text-soft">
        In other languages{Object.keys(names).length > 0 ? `: ${Object.keys(names).join(', ')}` : ''}
      </summary>
      <div className="mt-2 flex flex-wrap gap-3">
        {languages.map((lang) => (
          <Labelled key={lang} label={words.of(lang) ?? lang}>
            <input
              value={names[lang] ?? ''}
              placeholder={label}
              onChange={(event) => {
                const { [lang]: _former, ...rest } = names;
                onChange(event.target.value ? { ...rest, [lang]: event.target.value } : rest);
              }}
              className="field w-[220px]"
            />
          </Labelled>
        ))}
      </div>
    </details>
  );
}

/** A row with names in other languages, or without any. */
export function named(row: OutlineRow, names: Record<string, string>): OutlineRow {
  const { names: _former, ...rest } = row;
  return (Object.keys(names).length > 0 ? { ...rest, names } : rest) as OutlineRow;
}
