'use client';

import { type DragEvent, useState } from 'react';
import type { Inspection } from '@/contracts/answers/loads';
import { Failure } from '../parts/Place';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';

/** A file is chosen or dropped, sent, and looked at; nothing is loaded yet. */
export function PickFile({ onLooked }: { onLooked(file: Inspection): void }) {
  const [over, setOver] = useState(false);
  const look = useChange((form: FormData) => ask('POST /files', { body: form }), []);
  const send = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    const form = new FormData();
    form.append('file', file);
    onLooked(await look.mutateAsync(form).catch(() => Promise.reject()));
  };
  const drop = (event: DragEvent): void => {
    event.preventDefault();
    setOver(false);
    void send(event.dataTransfer.files[0]).catch(() => {});
  };
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: dropping is a second way; the field is the first
    <div
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
      className={`flex items-center gap-4 border bg-sheet p-3 ${over ? 'border-ink' : 'border-rule'}`}
    >
      <label className="button-main shrink-0 focus-within:outline-2 focus-within:outline-offset-1 focus-within:outline-ink">
        {look.isPending ? 'Sending and looking …' : 'Choose a file'}
        <input
          type="file"
          className="sr-only"
          disabled={look.isPending}
          onChange={(event) => {
            void send(event.target.files?.[0]).catch(() => {});
            event.target.value = '';
          }}
        />
      </label>
      <p className="min-w-0 text-soft">
        or drop it here. Text in any encoding, workbooks, audit files (XML), 18-column entries files, audit data
        standards, JSON; also as .zip or .gz. You see what it would become before anything is loaded.
      </p>
      <Failure error={look.error} />
    </div>
  );
}
