'use client';

import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';

/** What stands over a sheet until it is closed; Escape closes it. */
export function Modal({
  title,
  tight = false,
  className,
  onClose,
  children,
}: {
  title: ReactNode;
  /** What follows belongs to the title. */
  tight?: boolean;
  /** Where it stands and how wide and high it is. */
  className: string;
  onClose(): void;
  children: ReactNode;
}) {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-ink/20" />
        <Dialog.Content
          className={`panel fixed left-1/2 max-w-[94vw] -translate-x-1/2 p-6 ${className}`}
          aria-describedby={undefined}
        >
          <Dialog.Title className={`${tight ? 'mb-1' : 'mb-3'} font-book text-[19px] font-semibold`}>
            {title}
          </Dialog.Title>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** A button that closes it. */
export const ModalClose = Dialog.Close;
