'use client';

import { placeOfSubject } from '@/contracts/places';
import { toast } from '../parts/toast';
import { type Carried, carry } from './quoting';

/**
 * Copies something that is shown as a whole, an entry or a document, so that a text written here quotes it where it is
 * pasted; elsewhere it is pasted as what it is called.
 */
export function CopyToQuote({ subject, label }: Pick<Carried, 'subject' | 'label'>) {
  const copy = (): void => {
    const put = (event: ClipboardEvent): void => {
      if (!event.clipboardData) return;
      carry(event.clipboardData, label, {
        ...{ subject, label, address: placeOfSubject(subject), measure: null, value: null },
      });
      event.preventDefault();
      event.stopPropagation();
    };
    document.addEventListener('copy', put, true);
    // The way of today to the clipboard takes no kinds of our own; what a copy by keys carries, this carries.
    const done = document.execCommand('copy');
    document.removeEventListener('copy', put, true);
    toast(
      done ? `Copied: ${label}. Paste it into a note or a conclusion.` : `The browser did not let it copy ${label}.`,
    );
  };
  return (
    <button type="button" className="link" onClick={copy}>
      Copy to quote it
    </button>
  );
}
