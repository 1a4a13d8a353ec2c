import type { SavedThread } from '@/contracts/answers/threads';

/** How far a thread is, in a sign and a word. */
export const STATE_WORD: Record<SavedThread['state'], string> = {
  open: '○ open',
  prepared: '◐ prepared',
  signed: '● signed',
  changed: '≠ opened again',
};

/** Lists that change with what is done to a thread. */
export const TOUCHES = ['/threads', '/review-points', '/desk', '/cross-references'];
