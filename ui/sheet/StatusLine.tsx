import type { ReactNode } from 'react';

/** What exactly the focused number is, at the foot of every sheet. */
export function StatusLine({ title, text, right }: { title: string; text: string; right: ReactNode }) {
  return (
    <footer
      className="flex h-[30px] shrink-0 items-center gap-4 border-t border-rule px-[26px] text-[12.5px]"
      aria-live="polite"
    >
      <p className="min-w-0 flex-1 truncate">
        <strong className="font-semibold">{title}</strong> {text}
      </p>
      <p className="flex shrink-0 items-center gap-3 text-soft">{right}</p>
    </footer>
  );
}
