'use client';

import type { ReactNode } from 'react';

/** A panel that answers a question about the focused figure; it opens below the sheet and never replaces it. */
export function Panel({
  title,
  label,
  right,
  onClose,
  children,
}: {
  title: string;
  label: string;
  right?: ReactNode;
  onClose(): void;
  children: ReactNode;
}) {
  return (
    <section aria-label={title} className="mt-2 flex max-h-[300px] shrink-0 flex-col border border-rule bg-sheet">
      <header className="flex items-baseline gap-3 border-b-[1.5px] border-ink px-3 py-1">
        <h2 className="font-book text-[15px] font-semibold whitespace-nowrap">{title}</h2>
        <span className="min-w-0 truncate text-soft">of {label}</span>
        <span className="ml-auto flex shrink-0 items-baseline gap-3 text-[12.5px]">{right}</span>
        <button type="button" onClick={onClose} className="cursor-pointer text-soft hover:text-ink">
          Close
        </button>
      </header>
      <div className="min-h-0 overflow-auto">{children}</div>
    </section>
  );
}
