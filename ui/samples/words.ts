import type { Method, Reckoned, SampledOf } from '@/contracts/work';
import { amountText, countText } from '../amounts';

export const METHOD_WORD: Record<Method, string> = {
  'monetary-unit': 'monetary unit',
  random: 'random',
  systematic: 'every so-manieth',
  stratified: 'stratified by amount',
  largest: 'the largest',
  chosen: 'chosen by hand',
};

export const OF_WORD: Record<SampledOf, string> = { lines: 'lines', entries: 'entries', documents: 'documents' };

const percent = (part: number): string => `${Number((part * 100).toFixed(2))} %`;

/** How a size was reckoned, as a sentence. */
export function reckonedWords(how: Reckoned, currency: string, confidence: number): string {
  const money = (amount: string): string => `${currency} ${amountText(amount)}`;
  switch (how.is) {
    case 'chosen':
      return 'Chosen by hand.';
    case 'size': {
      const many = countText(how.size);
      const why =
        how.tolerableRate === undefined
          ? `${many}, as wanted`
          : `${many}: the fewest of which ${percent(how.expectedRate ?? 0)} with deviations leave no more than ${percent(how.tolerableRate)} likely, at ${percent(confidence)} confidence (binomial)`;
      const step = how.step ? `; every ${countText(how.step)} items one` : '';
      return `${why}${step}${how.shares ? `; shared out by value as ${how.shares.map(countText).join(', ')}` : ''}.`;
    }
    case 'units': {
      const every = `A unit every ${money(how.interval)}`;
      if (how.tolerable === undefined) return `${every}, as wanted.`;
      const why = how.expected
        ? `the fewest intervals of which ${money(how.expected)} expected leave no more than ${money(how.tolerable)} likely`
        : `${money(how.tolerable)} tolerable ÷ ${how.factor?.toFixed(2)}`;
      return `${every}: ${why}, at ${percent(confidence)} confidence (Poisson).`;
    }
  }
}

/** Lists that a change of a sample touches. */
export const TOUCHES = ['/samples', '/threads'];
