import fc from 'fast-check';
import { expect, test } from 'vitest';
import { changedBeyond, fellSilent, onWrongSide, outOfLine } from './marks';

const LIMITS = { amount: 50_000, percent: 25 };

test('a change stands out only beyond both limits, whichever way it goes', () => {
  expect(changedBeyond(150_000, 100_000, LIMITS)).toBe(true);
  expect(changedBeyond(149_999, 100_000, LIMITS)).toBe(false); // a unit short of the amount
  expect(changedBeyond(1_249_999, 1_000_000, LIMITS)).toBe(false); // a unit short of a quarter
  expect(changedBeyond(1_250_000, 1_000_000, LIMITS)).toBe(true);
  expect(changedBeyond(50_000, 0, LIMITS)).toBe(true); // from nothing is beyond any percentage
  expect(changedBeyond(0, 0, { amount: 0, percent: 0 })).toBe(false);
  fc.assert(
    fc.property(fc.integer({ min: -1e9, max: 1e9 }), fc.integer({ min: -1e9, max: 1e9 }), (now, before) => {
      expect(changedBeyond(now, before, LIMITS)).toBe(changedBeyond(-now, -before, LIMITS));
    }),
  );
});

test('a percentage of a very large balance is weighed exactly', () => {
  const before = 9_007_199_254_740_000;
  expect(changedBeyond(before - 100, before, { amount: 1, percent: 0 })).toBe(true);
  expect(changedBeyond(before / 2, before, { amount: 1, percent: 50 })).toBe(true);
  expect(changedBeyond(before / 2 + 1, before, { amount: 1, percent: 50 })).toBe(false);
});

test('nothing is on no side; silence is told only of what always spoke', () => {
  expect([
    onWrongSide(-1, 'debit'),
    onWrongSide(1, 'credit'),
    onWrongSide(0, 'debit'),
    onWrongSide(0, 'credit'),
  ]).toEqual([true, true, false, false]);
  expect(fellSilent(0, [3, 1, 2], 3)).toBe(true);
  expect(fellSilent(0, [3, 0, 2], 3)).toBe(false);
  expect(fellSilent(0, [3, 1], 3)).toBe(false); // less history than asked for
  expect(fellSilent(1, [3, 1, 2], 3)).toBe(false);
});

test('shares are out of line from so many points on; a share of nothing says nothing', () => {
  expect(outOfLine(120_000, 100_000, 2)).toBe(true);
  expect(outOfLine(119_999, 100_000, 2)).toBe(false);
  expect(outOfLine(null, 100_000, 2)).toBe(false);
});
