'use client';

import { Popover } from 'radix-ui';
import { type ReactNode, useRef } from 'react';
import { focusCell } from '../sheet/useFocus';

interface Props {
  open: boolean;
  onOpen(open: boolean): void;
  /** What opens it, as it is in the sentence. */
  trigger: ReactNode;
  className: string;
  label?: string;
  /** What it does, on pointing at it. */
  hint: string;
  children: ReactNode;
}

/** What a part of the sentence opens. */
export function SentencePopover({ open, onOpen, trigger, className, label, hint, children }: Props) {
  const openedFromGrid = useRef(false);
  const wasOpen = useRef(false);
  // What is opened takes the focus as soon as it is drawn; where it was before is known only now.
  if (open && !wasOpen.current) openedFromGrid.current = document.activeElement?.closest('[role=grid]') != null;
  wasOpen.current = open;
  return (
    <Popover.Root open={open} onOpenChange={onOpen}>
      <Popover.Trigger className={`cursor-pointer ${className}`} aria-label={label} title={hint}>
        {trigger}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          collisionPadding={12}
          // Who came by a key from the sheet goes on there.
          onCloseAutoFocus={(event) => {
            if (!openedFromGrid.current) return;
            event.preventDefault();
            focusCell();
          }}
          className="panel max-h-[70vh] w-[400px] overflow-auto p-4 font-sans text-[14px] leading-5"
        >
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
