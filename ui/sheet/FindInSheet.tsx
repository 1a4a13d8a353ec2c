'use client';

import { useState } from 'react';
import type { SheetModel } from './model';

/** Jumps to a row by typing part of what it is called; arrows go on to the next one and back, Enter stays there. */
export function FindInSheet({
  model,
  from,
  onFound,
  onClose,
}: {
  model: SheetModel;
  from: number;
  onFound(row: number): void;
  onClose(): void;
}) {
  const [text, setText] = useState('');
  const rows = model.loaded ? [...model.loaded] : Array.from({ length: model.count }, (_, i) => i);
  const fits = (wanted: string): number[] =>
    wanted === '' ? [] : rows.filter((i) => model.rowAt(i)?.label.toLowerCase().includes(wanted.toLowerCase()));
  const found = fits(text);
  const jump = (wanted: string, beyond: number, way: 1 | -1 = 1): void => {
    const all = fits(wanted);
    const next = way === 1 ? (all.find((i) => i > beyond) ?? all[0]) : (all.findLast((i) => i < beyond) ?? all.at(-1));
    if (next !== undefined) onFound(next);
  };
  return (
    <label className="flex items-baseline gap-2 whitespace-nowrap">
      <span className="text-faint">Find</span>
      <input
        autoFocus
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          jump(event.target.value, -1);
        }}
        onKeyDown={(event) => {
          if (event.key === 'ArrowDown') jump(text, from);
          if (event.key === 'ArrowUp') jump(text, from, -1);
          if (event.key === 'Enter' || event.key === 'Escape') onClose();
        }}
        className="w-[150px] border-b border-ink bg-transparent text-ink outline-offset-2"
      />
      <span role="status">
        {text === '' ? '' : found.length === 0 ? 'no row' : `${found.indexOf(from) + 1 || 1} of ${found.length}`}
      </span>
    </label>
  );
}
