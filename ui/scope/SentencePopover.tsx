'use client';

import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';

interface Props {
  open: boolean;
  onOpen(open: boolean): void;
  /** What opens it, as it is in the sentence. */
  trigger: ReactNode;
  className: string;
  label?: string;
  children: ReactNode;
}

/** What a part of the sentence opens. */
export function SentencePopover({ open, onOpen, trigger, className, label, children }: Props) {
  return (
    <Popover.Root open={open} onOpenChange={onOpen}>
      <Popover.Trigger className={`cursor-pointer ${className}`} aria-label={label}>
        {trigger}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          collisionPadding={12}
          className="panel max-h-[70vh] w-[400px] overflow-auto p-4 font-sans text-[14px] leading-5"
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
