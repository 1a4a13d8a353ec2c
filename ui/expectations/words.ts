import type { Expectation } from '@/contracts/answers/expectations';

/** What changes with an expectation. */
export const TOUCHES = ['/expectations', '/threads', '/desk'] as const;

export const RULES = {
  'year-before': 'the year before, and so much more',
  average: 'the average of periods before',
  share: 'a share of another figure',
  quantity: 'a quantity at a price',
  own: 'an amount of my own',
} as const;
export type RuleName = keyof typeof RULES;

export const stateInk = (state: Expectation['state']): string =>
  state === 'needs explaining' ? 'text-warn' : state === 'not reckoned' ? 'text-soft' : '';
