import fc from 'fast-check';
import { expect, test } from 'vitest';
import { type Gap, jumpsAmong, numberAt } from './entryNumbers';

/** Gaps of a set of numbers, by asking for each number in between. */
function gapsIn(numbers: readonly number[]): Gap[] {
  const there = new Set(numbers);
  const gaps: Gap[] = [];
  for (let at = Math.min(...numbers); at <= Math.max(...numbers); at++) {
    if (there.has(at)) continue;
    const last = gaps.at(-1);
    if (last && last.to === at - 1) last.to = at;
    else gaps.push({ from: at, to: at, before: [...there].filter((n) => n < at).length });
  }
  return gaps;
}

test('few missing numbers are gaps wherever they are, and each gap is told once', () => {
  fc.assert(
    fc.property(fc.uniqueArray(fc.integer({ min: 1, max: 400 }), { minLength: 1, maxLength: 120 }), (numbers) => {
      const found = gapsIn(numbers);
      const { gaps, jumps } = jumpsAmong(found, numbers.length);
      expect([...gaps, ...jumps].sort((a, b) => a.from - b.from)).toEqual(found);
      expect(jumps.every(({ from, to }) => to - from + 1 > 20)).toBe(true);
    }),
  );
});

test('a block by hand far above the others is no gap of thousands, and a lost number within it is one', () => {
  const row = (from: number, to: number): number[] => Array.from({ length: to - from + 1 }, (_, i) => from + i);
  const numbers = [...row(1, 300), ...row(302, 500), ...row(9_001, 9_010), ...row(9_012, 9_020)];
  const { gaps, jumps } = jumpsAmong(gapsIn(numbers), numbers.length);
  expect(gaps.map(({ from, to }) => [from, to])).toEqual([
    [301, 301],
    [9_011, 9_011],
  ]);
  expect(jumps.map(({ from, to }) => [from, to])).toEqual([[501, 9_000]]);
  // Numbers taken out of the middle of many are missing, however many they are.
  expect(jumpsAmong(gapsIn([...row(1, 500), ...row(601, 1_000)]), 900).jumps).toEqual([]);
});

test('a number is written as long as the others of its series', () => {
  expect(numberAt({ beginning: 'FI-', length: 8 }, 871)).toBe('FI-00871');
  expect(numberAt({ beginning: '', length: 4 }, 7)).toBe('0007');
});
