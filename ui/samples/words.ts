import type { Method, SampledOf } from '@/contracts/work';

export const METHOD_WORD: Record<Method, string> = {
  'monetary-unit': 'monetary unit',
  random: 'random',
  systematic: 'every so-manieth',
  stratified: 'stratified by amount',
  largest: 'the largest',
  chosen: 'chosen by hand',
};

export const OF_WORD: Record<SampledOf, string> = { lines: 'lines', entries: 'entries', documents: 'documents' };

/** Lists that a change of a sample touches. */
export const TOUCHES = ['/samples', '/threads'];
