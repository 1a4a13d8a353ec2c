import type { SortField } from '@/core/lineFields';

/** One of the things that lines are put in order by. */
export type Sort = { by: SortField; descending: boolean };

/** Where a page of a ledger begins: after a line (in ledger order), or at a row number counted from a day. */
export type From = { after: LedgerKey } | { offset: number; day: string | null };

export interface LedgerKey {
  day: string;
  entryNumber: string;
  entity: number;
  entry: number;
  line: number;
}
