import fc from 'fast-check';
import { expect, test } from 'vitest';
import { PATTERN_MAX, patternOf } from './pattern';

/** What a pattern means, said by cases; its own cost does not matter for short texts. */
function fits(pattern: string, text: string): boolean {
  if (pattern === '') return text === '';
  if (pattern[0] === '*') return fits(pattern.slice(1), text) || (text !== '' && fits(pattern, text.slice(1)));
  return text !== '' && (pattern[0] === '?' || pattern[0] === text[0]) && fits(pattern.slice(1), text.slice(1));
}

const letters = (alphabet: string, maxLength: number) =>
  fc.array(fc.constantFrom(...alphabet), { maxLength }).map((l) => l.join(''));

test('a pattern takes what its stars and question marks say', () => {
  fc.assert(
    fc.property(letters('ab*?', 8), letters('ab', 9), (pattern, text) => {
      expect(patternOf(pattern).test(text)).toBe(fits(pattern, text));
    }),
    { numRuns: 3_000 },
  );
  expect(patternOf('inv-2?*').test('INV-26-0071')).toBe(true);
  expect(patternOf('5.10').test('5x10')).toBe(false);
});

test('whatever is typed, a text is walked once', () => {
  fc.assert(
    fc.property(letters('a*?z', PATTERN_MAX), letters('az', 2_000), (pattern, text) => {
      expect(patternOf(pattern).walk(text).steps).toBeLessThanOrEqual(text.length);
    }),
    { numRuns: 500 },
  );
  // The link that once froze the server.
  const { fits: found, steps } = patternOf(`${'*'.repeat(40)}zz`).walk('a'.repeat(5_000));
  expect({ found, steps }).toEqual({ found: false, steps: 5_000 });
  expect(() => patternOf('*a'.repeat(PATTERN_MAX))).toThrow(/at most 200 characters/);
});
