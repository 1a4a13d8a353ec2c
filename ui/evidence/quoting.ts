import type { Measure } from '@/contracts/traced';

/** A figure on its way from a sheet into a text, as the clipboard carries it. */
export interface Carried {
  subject: string;
  measure: Measure | null;
  label: string;
  address: string;
  value: string | null;
}

/** Under what a figure lies on the clipboard, beside its amount as plain text. */
export const CARRIED = 'application/x-just-thread-figure';

/** Puts on the clipboard what is pasted as words elsewhere, and into texts here as what it is. */
export function carry(clipboard: DataTransfer, words: string, carried: Carried): void {
  clipboard.setData('text/plain', words);
  clipboard.setData(CARRIED, JSON.stringify(carried));
}

export function readCarried(text: string): Carried | null {
  try {
    const found = JSON.parse(text) as Partial<Carried>;
    if (typeof found.subject !== 'string' || typeof found.label !== 'string') return null;
    return {
      subject: found.subject,
      measure: found.measure ?? null,
      label: found.label.slice(0, 300),
      address: typeof found.address === 'string' && found.address.startsWith('/') ? found.address : '',
      value: typeof found.value === 'string' ? found.value : null,
    };
  } catch {
    return null;
  }
}
