import { type DateText, daysBetween } from './dates';
import { add, type Minor } from './money';

/** A document as of a date: what was applied to it, and what it applied to others, up to then. Amounts in its currency. */
export interface OpenItem {
  type: string;
  date: DateText;
  due: DateText | null;
  /** As it was written, more than zero for invoices and payments alike. */
  amount: Minor;
  /** What others applied to it. */
  settled: Minor;
  /** As far as these others are on a control account, as a refund does and a deposit at the bank does not. */
  settledHere: Minor;
  /** What it applied to others. */
  settles: Minor;
}

/** Documents that settle others and are on the other side of a control account until they have done so. Goods that came settle nothing. */
export const SETTLING = /payment|(?<!goods )receipt(?! of goods)|credit|deposit|refund/i;

/** Documents that say that goods came, or work was done. */
export const RECEIVING = /receipt of goods|goods receipt|delivery/i;

export const isSettling = (type: string): boolean => SETTLING.test(type);

/**
 * What of a document is open: original − applied so far (method.md §8). Of one that settles others, what it has not
 * applied yet, with the other sign, so that open documents add up to the balance of their control account.
 */
export const openOf = (item: OpenItem): Minor =>
  isSettling(item.type) ? add(item.settles, add(item.settledHere, -item.amount)) : add(item.amount, -item.settled);

/** Upper ends of the age bands in days, as is common practice; the last band has none. */
export const AGE_EDGES = [30, 60, 90, 120] as const;

/** Days that a document is past its due date, or its own; 0 or less where it is not due yet. */
export const daysPast = (item: OpenItem, at: DateText, by: 'due' | 'document'): number =>
  daysBetween((by === 'due' && item.due) || item.date, at);

/** Which age band: 0 not due, then one for each edge, then all that is older. */
export function ageBand(days: number, edges: readonly number[] = AGE_EDGES): number {
  if (days <= 0) return 0;
  const at = edges.findIndex((edge) => days <= edge);
  return at < 0 ? edges.length + 1 : at + 1;
}

/** "not due", "1–30", "31–60", …, "121 and more" */
export const bandNames = (edges: readonly number[] = AGE_EDGES): string[] => [
  'not due',
  ...edges.map((edge, i) => `${(edges[i - 1] ?? 0) + 1}–${edge} days`),
  `${(edges[edges.length - 1] ?? 0) + 1} days and more`,
];

/** What documents and lines of a control account say of the same thing, where they differ. */
export interface Difference {
  date: DateText;
  /** What the document is worth there; null where there is none. */
  document: Minor | null;
  /** What lines come to; null where there are none. */
  booked: Minor | null;
}

/**
 * Differences without those that are the same thing under two names: a document without lines and lines without a document
 * of the same day and amount, where there is just one of either.
 */
export function withoutAlike<Row extends Difference>(rows: readonly Row[]): { rows: Row[]; alike: number } {
  const keyOf = ({ date, document, booked }: Row): string => `${date}|${document ?? booked}`;
  const lone = new Map<string, { documents: Row[]; booked: Row[] }>();
  for (const row of rows) {
    if ((row.document === null) === (row.booked === null)) continue;
    const same = lone.get(keyOf(row)) ?? { documents: [], booked: [] };
    lone.set(keyOf(row), same);
    same[row.booked === null ? 'documents' : 'booked'].push(row);
  }
  const paired = new Set<Row>();
  for (const { documents, booked } of lone.values())
    if (documents.length === 1 && booked.length === 1) for (const row of [...documents, ...booked]) paired.add(row);
  return { rows: rows.filter((row) => !paired.has(row)), alike: paired.size / 2 };
}
