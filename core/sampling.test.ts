import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  attributeSize,
  confidenceFactor,
  evaluateDifferences,
  evaluateMonetaryUnits,
  type Item,
  monetaryUnitSize,
  monetaryUnits,
  placesAt,
  placesOf,
  proposedBounds,
  rolls,
  upperDeviationRate,
  upperDeviationRatePoisson,
} from './sampling';

describe('against published values', () => {
  test('Poisson confidence factors, which tables of the trade round up (common practice; 95 % and 90 %)', () => {
    const up = (n: number): number => Math.ceil(n * 100 - 1e-9) / 100;
    expect([0, 1, 2, 3, 4].map((errors) => up(confidenceFactor(errors, 0.95)))).toEqual([3.0, 4.75, 6.3, 7.76, 9.16]);
    expect([0, 1, 2].map((errors) => up(confidenceFactor(errors, 0.9)))).toEqual([2.31, 3.89, 5.33]);
  });

  test('a factor is the mean at which so few errors are seen with the chance that is left: by the sum itself', () => {
    const chance = (errors: number, mean: number): number => {
      let term = Math.exp(-mean);
      let all = term;
      for (let k = 1; k <= errors; k++) {
        term *= mean / k;
        all += term;
      }
      return all;
    };
    for (const confidence of [0.7, 0.8, 0.9, 0.95, 0.99])
      for (let errors = 0; errors <= 20; errors++)
        expect(chance(errors, confidenceFactor(errors, confidence))).toBeCloseTo(1 - confidence, 10);
  });

  test('sizes for deviations at 95 %: 59 and 29 where none is expected, 93 and 124 where one and two are (AICPA’s tables, from memory)', () => {
    expect(attributeSize(0.05, 0, 0.95)).toBe(59);
    expect(attributeSize(0.1, 0, 0.95)).toBe(29);
    expect(upperDeviationRate(1, 93, 0.95)).toBeLessThanOrEqual(0.05);
    expect(upperDeviationRate(1, 92, 0.95)).toBeGreaterThan(0.05);
    expect(upperDeviationRate(2, 124, 0.95)).toBeLessThanOrEqual(0.05);
    expect(upperDeviationRate(2, 123, 0.95)).toBeGreaterThan(0.05);
  });

  test('the upper rate is exact: so few deviations are seen with the chance that is left', () => {
    const chance = (found: number, tested: number, rate: number): number => {
      let term = (1 - rate) ** tested;
      let all = term;
      for (let k = 1; k <= found; k++) {
        term *= ((tested - k + 1) / k) * (rate / (1 - rate));
        all += term;
      }
      return all;
    };
    for (const [found, tested] of [
      [0, 60],
      [1, 60],
      [3, 100],
      [10, 250],
    ] as const)
      expect(chance(found, tested, upperDeviationRate(found, tested, 0.95))).toBeCloseTo(0.05, 8);
    expect(upperDeviationRate(5, 5, 0.95)).toBe(1);
    // The tables' way is never below the exact one.
    expect(upperDeviationRatePoisson(0, 60, 0.95)).toBeGreaterThan(upperDeviationRate(0, 60, 0.95));
  });

  test('monetary unit: interval = tolerable ÷ factor; with expected errors the limit just holds', () => {
    const none = monetaryUnitSize({ value: 100_000_000, tolerable: 5_000_000, expected: 0, confidence: 0.95 });
    expect(none.interval).toBe(Math.floor(5_000_000 / 2.9957322735539909));
    expect(none.size).toBe(60);
    const some = monetaryUnitSize({ value: 100_000_000, tolerable: 5_000_000, expected: 1_000_000, confidence: 0.95 });
    const limit = (size: number): number => (confidenceFactor(size / 100, 0.95) * 100_000_000) / size;
    expect(limit(some.size)).toBeLessThanOrEqual(5_000_000);
    expect(limit(some.size - 1)).toBeGreaterThan(5_000_000);
    const much = { value: 100, tolerable: 10, expected: 10, confidence: 0.95 };
    expect(() => monetaryUnitSize(much)).toThrow(RangeError);
  });

  test('taintings, worked by hand: two overstatements of a half and a tenth, one item for certain', () => {
    // Factors 2.9957, 4.7439, 6.2958; interval 10,000.00: precision 29,957.32; 0.5 × 1.7481 and 0.1 × 1.5519 of it; 2,000.00 known.
    const { over, under, errors } = evaluateMonetaryUnits(
      [
        { booked: 100_000, found: 90_000, certain: false },
        { booked: 400_000, found: 200_000, certain: false },
        { booked: 5_000_000, found: 4_800_000, certain: true },
        { booked: 70_000, found: 70_000, certain: false },
      ],
      1_000_000,
      0.95,
    );
    expect(errors.map((e) => [e.tainting, e.projected])).toEqual([
      [0.1, 100_000],
      [0.5, 500_000],
      [0.04, 200_000],
    ]);
    expect(over).toMatchObject({ projected: 800_000, known: 200_000, basicPrecision: 2_995_732 });
    expect(over.incremental).toBe(Math.round((1.748132_5 * 0.5 + 1.551929_6 * 0.1) * 1_000_000));
    expect(over.upperLimit).toBe(over.basicPrecision + over.incremental + 200_000);
    expect(under).toMatchObject({ projected: 0, incremental: 0, upperLimit: 2_995_732 });
  });
});

describe('what holds of every draw', () => {
  test('places are different, in order, within, as many as wanted, and the same again from the same seed', () => {
    fc.assert(
      fc.property(fc.string(), fc.nat(60), fc.nat(500), (seed, wanted, of) => {
        const places = placesOf(seed, wanted, of);
        expect(places).toEqual(placesOf(seed, wanted, of));
        expect(new Set(places).size).toBe(Math.min(wanted, of));
        for (const [i, place] of places.entries()) {
          expect(place).toBeGreaterThan(places[i - 1] ?? 0);
          expect(place).toBeLessThanOrEqual(of);
        }
        const steps = placesAt(seed, wanted, of);
        expect(
          steps.places.every(
            (p, i) => p >= 1 && p <= of && (i === 0 || p - (steps.places[i - 1] as number) === steps.interval),
          ),
        ).toBe(true);
      }),
    );
  });

  test('every place is as likely as any other: a chi-square test over a thousand seeds', () => {
    const seen = new Array<number>(20).fill(0);
    for (let seed = 0; seed < 1_000; seed++)
      for (const place of placesOf(String(seed), 5, 20)) seen[place - 1] = (seen[place - 1] ?? 0) + 1;
    const expected = (1_000 * 5) / 20;
    const chi = seen.reduce((all, n) => all + (n - expected) ** 2 / expected, 0);
    // 19 degrees of freedom, 99.9 %: 43.82 (NIST/SEMATECH e-Handbook of Statistical Methods, 1.3.6.7.4).
    expect(chi).toBeLessThan(43.82);
    const [first] = rolls('a');
    expect(first).toBeGreaterThanOrEqual(0);
    expect(first).toBeLessThan(1);
  });

  const items = fc
    .array(fc.integer({ min: -5_000, max: 5_000 }), { maxLength: 80 })
    .map((amounts) => amounts.map((amount, i): Item => ({ key: String(i), amount })));
  test('monetary units fall on every interval once: drawn, certain and left are all there is, and each unit once', () => {
    fc.assert(
      fc.property(items, fc.integer({ min: 1, max: 3_000 }), fc.string(), (all, interval, seed) => {
        const { certain, drawn } = monetaryUnits(all, interval, seed);
        const value = (keys: readonly string[]): number =>
          keys.reduce((sum, key) => sum + Math.abs(all[Number(key)]?.amount ?? 0), 0);
        expect(new Set([...certain, ...drawn]).size).toBe(certain.length + drawn.length);
        for (const key of certain) expect(value([key])).toBeGreaterThanOrEqual(interval);
        for (const key of drawn) expect(value([key])).toBeLessThan(interval);
        const rest = value(all.map((i) => i.key)) - value(certain);
        // As many as the rest has intervals, one more or less by where it begins.
        expect(drawn.length).toBeGreaterThanOrEqual(Math.floor(rest / interval));
        expect(drawn.length).toBeLessThanOrEqual(Math.ceil(rest / interval));
      }),
    );
  });

  test('what was looked at whole is projected as it is, without any doubt', () => {
    const tested = [
      { booked: 100, found: 90, certain: false },
      { booked: 50, found: 50, certain: false },
    ];
    expect(evaluateDifferences([{ items: 2, value: 150, tested }], 0.95)).toMatchObject({
      projected: 10,
      upperLimit: 10,
    });
    // Ten of twenty, each one short of a pound: nothing to doubt but how they spread, and they do not.
    const each = Array.from({ length: 10 }, () => ({ booked: 200, found: 100, certain: false }));
    expect(evaluateDifferences([{ items: 20, value: 4_000, tested: each }], 0.95)).toMatchObject({
      projected: 2_000,
      upperLimit: 2_000,
    });
  });

  test('proposed strata rise, and hold about the same value', () => {
    const amounts = Array.from({ length: 1_000 }, (_, i) => (i + 1) ** 2);
    const bounds = proposedBounds(amounts, 5);
    expect(bounds).toHaveLength(4);
    const whole = amounts.reduce((a, b) => a + b, 0);
    const shares = [0, ...bounds].map(
      (from, i) => amounts.filter((a) => a >= from && a < (bounds[i] ?? Infinity)).reduce((a, b) => a + b, 0) / whole,
    );
    for (const share of shares) expect(share).toBeCloseTo(0.2, 1);
  });
});
