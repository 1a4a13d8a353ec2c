import { expect, test } from 'vitest';
import { answering } from '@/store/asking';
import { spokenAmount, spokenCount, spokenRoughly } from './spokenNumbers';

const asked = <T>(locale: string | undefined, say: () => T): T =>
  answering({ id: 'x', signal: new AbortController().signal, person: null, ...(locale ? { locale } : {}) }, say);

test('numbers in a sentence are written as whoever asks writes them', () => {
  const says = () => [
    spokenCount(1_700_000),
    spokenRoughly(1_740_000),
    spokenRoughly(20_500),
    spokenAmount(-123456789, 2),
  ];
  expect(asked('en-GB', says)).toEqual(['1,700,000', '1.7 million', '20,500', '-1,234,567.89']);
  expect(asked('de-DE', says)).toEqual(['1.700.000', '1,7 million', '20.500', '-1.234.567,89']);
  // On the command line nobody asks.
  expect([says(), asked(undefined, says)]).toEqual([asked('en', says), asked('en', says)]);
});

test('an amount is said to its last unit, however large', () => {
  expect(asked('en', () => spokenAmount(9_007_199_254_740_991, 2))).toBe('90,071,992,547,409.91');
  expect(asked('en', () => [spokenAmount(5, 0), spokenAmount(5, 3)])).toEqual(['5', '0.005']);
});
