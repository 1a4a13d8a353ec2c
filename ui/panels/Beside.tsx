'use client';

import type { ReactNode } from 'react';

/** What stands beside the sheet and follows the focus: its head, a way to close it, and what it shows. */
export const Beside = ({
  name,
  title,
  width,
  more,
  onClose,
  children,
}: {
  name: string;
  title: string;
  /** Tailwind widths: share, most, least. */
  width: string;
  /** What else can be done from its head. */
  more?: ReactNode;
  onClose(): void;
  children: ReactNode;
}) => (
  <aside aria-label={name} className={`ml-3 flex shrink-0 flex-col pt-[30px] ${width}`}>
    <header className="flex items-baseline gap-3 pb-1">
      <h2 className="min-w-0 truncate font-book text-[15px] font-semibold">{title}</h2>
      <span className="ml-auto flex shrink-0 gap-3 text-[12.5px] text-soft">
        {more}
        <button type="button" onClick={onClose} className="cursor-pointer hover:text-ink">
          Close
        </button>
      </span>
    </header>
    {children}
  </aside>
);
