import { ownPathOf } from '@/contracts/ownPath';

/** The place that the first screen opens with. */
const FIRST = '/desk';

/** Where one goes after signing in: to the page that was asked for, if it is one of ours; else to the first screen. */
export const ownPath = (to: unknown): string => ownPathOf(to) ?? FIRST;
