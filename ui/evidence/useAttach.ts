'use client';

import { ask } from '../query/client';
import { useChange } from '../query/hooks';

export interface Attaching {
  file: File;
  subject: string;
  label: string;
  address: string;
  thread: number | null;
}

/** Sends a file to what it is attached to. */
export const useAttach = () =>
  useChange(
    ({ file, subject, label, address, thread }: Attaching) => {
      const form = new FormData();
      for (const [name, value] of Object.entries({ subject, label: label.slice(0, 300), address }))
        form.set(name, value);
      if (thread !== null) form.set('thread', String(thread));
      // What is pasted from the clipboard bears no name of its own.
      form.set('file', file, file.name || 'pasted.png');
      return ask('POST /attachments', { body: form });
    },
    ['/attachments', '/threads'],
  );
