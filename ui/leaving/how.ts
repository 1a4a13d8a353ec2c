import { HOW_NAMES, LEAF_FORMATS, type LeafFormat, PAGED } from '@/contracts/leaves';
import type { How } from '@/contracts/leaving';

/** How a sheet is to leave, as the form holds it: what is not said is the empty text. */
export type Wanted = { format: LeafFormat } & Partial<Record<keyof How, string>>;

export const FORMAT_WORD: Record<LeafFormat, [name: string, says: string]> = {
  xlsx: ['Spreadsheet', 'Numbers, dates, totals as formulas, levels that fold, links to what is behind'],
  pdf: ['Paper (PDF)', 'Typeset as a printed ledger, with what each page carries forward'],
  csv: ['Text with commas (CSV)', 'For other programs; with its heading, or a bare table'],
  json: ['JSON', 'For other programs, each amount as an exact decimal'],
};

const KEPT = 'take-out';
/** What belongs to one sheet and not to the next. */
const OWN: readonly (keyof How)[] = ['title', 'page', 'preview'];

/** How the last sheet left. */
export function lastWanted(): Wanted {
  try {
    const kept: unknown = JSON.parse(window.localStorage.getItem(KEPT) ?? '{}');
    const wanted = kept as Partial<Wanted>;
    return { ...wanted, format: LEAF_FORMATS.find((f) => f === wanted.format) ?? 'xlsx' };
  } catch {
    return { format: 'xlsx' };
  }
}

export function rememberWanted(wanted: Wanted): void {
  try {
    const kept = Object.fromEntries(Object.entries(wanted).filter(([name]) => !OWN.includes(name as keyof How)));
    window.localStorage.setItem(KEPT, JSON.stringify(kept));
  } catch {
    // A full or forbidden storage only costs the comfort.
  }
}

/** The address that gives a sheet as it is wanted. @param path of the sheet, as the interface is asked for it */
export function fileAddress(path: string, wanted: Wanted): string {
  const [place, query = ''] = path.split(/\?(.*)/s);
  const params = new URLSearchParams(query);
  for (const name of PAGED) params.delete(name);
  params.set('format', wanted.format);
  for (const name of HOW_NAMES) {
    const value = wanted[name];
    if (value) params.set(name, value);
  }
  return `/api/v1${place}?${params}`;
}

/** What is said of how it leaves and is kept with it: not what it is of, nor what is the usual way. */
export const howOf = (wanted: Wanted): Omit<How, 'page' | 'preview'> =>
  Object.fromEntries(
    HOW_NAMES.flatMap((name) => (wanted[name] && name !== 'page' && name !== 'preview' ? [[name, wanted[name]]] : [])),
  );
