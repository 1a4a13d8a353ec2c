import { exactly } from '@/core/values';

/** Where a document is shown. */
export const documentPath = (entity: string, number: string): string =>
  `/documents/${encodeURIComponent(number)}?${new URLSearchParams({ entity })}`;

/** Where the documents of a control account are shown, as they were at the end of a scope's window. */
export function openDocumentsPath(address: URLSearchParams, account: string): string {
  const kept = [...address].filter(([name]) => ['entity', 'from', 'to', 'window', 'load'].includes(name));
  return `/documents?${new URLSearchParams([...kept, ['accounts', account]])}`;
}

/** The lines that a document was booked in, whatever the period. */
export const linesOfDocument = (entity: string, number: string): string =>
  `/lines?${new URLSearchParams({ entity, window: 'everything', document: exactly(number) })}`;

/** The lines of the entry that bears a document's number. */
export const linesOfEntry = (entity: string, number: string): string =>
  `/lines?${new URLSearchParams({ entity, window: 'everything', entry: exactly(number) })}`;
