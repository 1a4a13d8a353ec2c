import type { Judgement } from '@/contracts/work';

export const STATE_WORD = {
  waiting: 'waits for its turn',
  running: 'under way',
  done: 'done',
  cancelled: 'stopped',
  failed: 'did not come to its end',
} as const;

/** What a judgement is called, with the mark that it bears in a list. */
export const JUDGEMENT_WORD: Record<Judgement, string> = {
  explained: '✓ explained',
  finding: '✗ finding',
  asked: '? asked',
  open: 'open',
};

/** What changes with a run or a judgement. */
export const TOUCHES = ['/test-runs', '/tests', '/ignored-hits', '/threads', '/desk'];
