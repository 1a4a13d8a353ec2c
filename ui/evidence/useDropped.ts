'use client';

import type { ClipboardEvent, DragEvent } from 'react';
import { toast } from '../parts/toast';
import { useAttach } from './useAttach';

/** Takes files that are dropped or pasted on something that was written, and attaches them to it. */
export function useDropped({ subject, label, address }: { subject: string; label: string; address: string }) {
  const attach = useAttach();
  const take = (event: { preventDefault(): void; stopPropagation(): void }, files: readonly File[]): void => {
    if (files.length === 0) return;
    event.preventDefault();
    // What it stands on would take them for its own.
    event.stopPropagation();
    for (const file of files)
      attach.mutate(
        { file, subject, label, address, thread: null },
        {
          onSuccess: () => toast(`${file.name || 'The picture'} is attached`),
          onError: (problem) => toast(problem.message),
        },
      );
  };
  return {
    onDragOver: (event: DragEvent): void => {
      if (event.dataTransfer.types.includes('Files')) event.preventDefault();
    },
    onDrop: (event: DragEvent): void => take(event, [...event.dataTransfer.files]),
    onPaste: (event: ClipboardEvent): void => take(event, [...event.clipboardData.files]),
  };
}
