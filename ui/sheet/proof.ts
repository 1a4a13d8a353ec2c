import type { Tie } from '@/contracts/answers/head';
import { amountText } from '../amounts';

/** What was held against something else, and whether it agreed. */
export interface Proof {
  ok: boolean;
  says: string;
}

/** @param what is said where it holds */
export const proofOf = (tie: Tie | null | undefined, what = 'ties'): Proof | null =>
  tie ? { ok: tie.ok, says: tie.ok ? what : offText(tie) } : null;

/** By how much, and since when. */
const offText = (tie: Tie): string =>
  `off by ${amountText(tie.offBy)}${tie.sinceLoad ? ` since load ${tie.sinceLoad}` : ''}`;
