import { LINE_KINDS, type LineKind, type LineStatus } from '@/core/ledger';

/** Small integers that the line table keeps instead of words. */
export const KIND = Object.fromEntries(LINE_KINDS.map((kind, i) => [kind, i])) as Record<LineKind, number>;
export const STATUS: Record<LineStatus, number> = { unposted: 0, posted: 1 };
export const SIDE = { debit: 1, credit: -1 } as const;

export const kindOf = (code: number): LineKind => LINE_KINDS[code] as LineKind;
export const statusOf = (code: number): LineStatus => (code === STATUS.posted ? 'posted' : 'unposted');

/** What is told of the day of a line. */
export const isOfDays = (word: string): boolean => word === 'day' || word === 'week' || word === 'month';
