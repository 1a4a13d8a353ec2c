import { describe, expect, test } from 'vitest';
import {
  bandOf,
  digitsOf,
  EXPECTED_FIRST,
  EXPECTED_TWO,
  firstDigit,
  firstTwo,
  measuresOf,
  NIGRINI_FIRST,
  NIGRINI_TWO,
} from './benford';
import { distance } from './twice';

// Benford's law against sequences of which it is known whether they keep it, and against numbers of the trade.

/** The digits of big whole numbers, as amounts of any size have them. */
const firstOf = (numbers: readonly bigint[], many: 1 | 2): number[] =>
  digitsOf(
    numbers.map((n) => Number(String(n).slice(0, many))),
    many,
  );

const powersOfTwo = Array.from({ length: 1_000 }, (_, i) => 2n ** BigInt(i + 4));
const fibonacci = ((): bigint[] => {
  const all: bigint[] = [1n, 2n];
  while (all.length < 1_000) all.push((all.at(-1) as bigint) + (all.at(-2) as bigint));
  return all.slice(6);
})();
const uniform = Array.from({ length: 900 }, (_, i) => BigInt(i + 100));

test('expected shares: log10(1 + 1/d), from closed form', () => {
  const rounded = EXPECTED_FIRST.map((share) => Math.round(share * 1e5) / 1e5);
  expect(rounded).toEqual([0.30103, 0.17609, 0.12494, 0.09691, 0.07918, 0.06695, 0.05799, 0.05115, 0.04576]);
  // Of two digits those that begin with the same one have its share together.
  for (let d = 1; d <= 9; d++) {
    const own = EXPECTED_TWO.slice((d - 1) * 10, d * 10).reduce((a, b) => a + b, 0);
    expect(own).toBeCloseTo(EXPECTED_FIRST[d - 1] as number, 12);
  }
});

describe.each([
  ['powers of two', powersOfTwo],
  ['Fibonacci numbers', fibonacci],
])('%s', (_what, numbers) => {
  test('conform, by the deviation and by chi-square', () => {
    const first = measuresOf(firstOf(numbers, 1), EXPECTED_FIRST);
    expect(bandOf(first.mad, NIGRINI_FIRST)).toBe('close conformity');
    // The critical value of chi-square with 8 degrees of freedom at five percent is 15.507 (any statistical table).
    expect(first.chiSquare).toBeLessThan(15.507);
    expect(first.likely).toBeGreaterThan(0.05);
    expect(bandOf(measuresOf(firstOf(numbers, 2), EXPECTED_TWO).mad, NIGRINI_TWO)).toBe('close conformity');
  });
});

test('digits that all come alike do not conform', () => {
  const first = measuresOf(firstOf(uniform, 1), EXPECTED_FIRST);
  expect(bandOf(first.mad, NIGRINI_FIRST)).toBe('nonconformity');
  expect(first.chiSquare).toBeGreaterThan(15.507);
  expect(first.likely).toBeLessThan(0.001);
});

test('chi-square is as likely as a table says', () => {
  // Counts whose chi-square is just the critical value: one digit is off, and the others take the rest alike.
  const at = (likely: number, chiSquare: number): void => {
    const total = 1e9;
    const share = EXPECTED_FIRST[0] as number;
    const rest = 1 - share;
    const off = Math.sqrt(chiSquare / (total / share + total / rest)) * total;
    const counts = EXPECTED_FIRST.map((p, i) => total * p + (i === 0 ? off : (-off * p) / rest));
    const measured = measuresOf(counts, EXPECTED_FIRST);
    expect(measured.chiSquare).toBeCloseTo(chiSquare, 6);
    expect(measured.likely).toBeCloseTo(likely, 4);
  };
  // From any statistical table, 8 degrees of freedom.
  at(0.05, 15.507);
  at(0.01, 20.09);
  at(0.95, 2.733);
});

test('digits of amounts, whatever their sign and size', () => {
  expect([1, -98_765, 10, 0, -7].map(firstDigit)).toEqual([1, 9, 1, 0, 7]);
  expect([1, -98_765, 10, 0, 250].map(firstTwo)).toEqual([0, 98, 10, 0, 25]);
});

test('numbers that are nearly the same differ by a character put in, taken out or exchanged', () => {
  // The textbook pair of the distance has 3.
  expect(distance('kitten', 'sitting')).toBe(3);
  expect(distance('NS-20631', 'NS-2063I')).toBe(1);
  expect(distance('NS-20631', 'NS-2063')).toBe(1);
  expect(distance('', 'abc')).toBe(3);
});
