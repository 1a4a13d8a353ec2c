import betaQuantile from '@stdlib/stats-base-dists-beta-quantile';
import gammaQuantile from '@stdlib/stats-base-dists-gamma-quantile';
import normalQuantile from '@stdlib/stats-base-dists-normal-quantile';
import { sha256Text } from './digest';
import { add, exact, type Minor, sum } from './money';

/** Audit samples (ISA 530): how many, which, and what they tell of the whole. */

/** What can be drawn, with its amount in minor units. */
export interface Item {
  key: string;
  amount: Minor;
}

/**
 * Numbers in [0, 1) from a seed: the first 52 bits of SHA-256 over the seed, a colon and the place in the row. Anybody can
 * work them out again.
 */
export function* rolls(seed: string): Generator<number> {
  for (let at = 0; ; at++) yield Number.parseInt(sha256Text(`${seed}:${at}`).slice(0, 13), 16) / 2 ** 52;
}

/**
 * So many different places of a row of `of`, each as likely as any other (Fisher and Yates' shuffle, begun and not ended).
 * @returns in ascending order, from 1; all of them where more are wanted than there are
 */
export function placesOf(seed: string, wanted: number, of: number): number[] {
  const numbers = rolls(seed);
  const moved = new Map<number, number>();
  const at = (place: number): number => moved.get(place) ?? place;
  const drawn: number[] = [];
  for (let i = 0; i < Math.min(wanted, of); i++) {
    const j = i + Math.floor((numbers.next().value as number) * (of - i));
    drawn.push(at(j) + 1);
    moved.set(j, at(i));
  }
  return drawn.sort((a, b) => a - b);
}

/** Every so-manieth place from a start that is drawn within the first interval. @returns ascending, from 1 */
export function placesAt(seed: string, wanted: number, of: number): { interval: number; places: number[] } {
  if (of === 0 || wanted === 0) return { interval: 0, places: [] };
  const interval = Math.max(1, Math.floor(of / wanted));
  const start = 1 + Math.floor((rolls(seed).next().value as number) * interval);
  const places: number[] = [];
  for (let place = start; place <= of && places.length < wanted; place += interval) places.push(place);
  return { interval, places };
}

/**
 * The Poisson confidence factor of so many errors: the mean at which so few or fewer are seen with the chance that is left
 * beside the confidence. It is the quantile of a gamma distribution of shape errors + 1 (the usual table: 3.00, 4.75, 6.30,
 * 7.76, 9.16 at 95 %).
 * @param errors need not be whole: expected errors seldom are
 */
export const confidenceFactor = (errors: number, confidence: number): number =>
  gammaQuantile(confidence, errors + 1, 1);

/** The highest rate of deviations that so many of so many leave likely: exact, by Clopper and Pearson, one-sided. */
export const upperDeviationRate = (found: number, tested: number, confidence: number): number =>
  found >= tested ? 1 : betaQuantile(confidence, found + 1, tested - found);

/** The same by the Poisson distribution, which tables of the trade are made with. */
export const upperDeviationRatePoisson = (found: number, tested: number, confidence: number): number =>
  Math.min(1, confidenceFactor(found, confidence) / tested);

export interface SizeAsked {
  /** Value of what is drawn from, without sign. */
  value: Minor;
  tolerable: Minor;
  expected: Minor;
  confidence: number;
}

const SIZE_MAX = 100_000;

/** How a sample of monetary units was reckoned, to be shown. */
export interface Size {
  size: number;
  interval: Minor;
  factor: number;
}

/**
 * The interval of a monetary unit sample, and how many intervals the value has. Without expected errors it is tolerable
 * misstatement ÷ the confidence factor; with them the smallest number of intervals at which the upper limit, if just the
 * expected misstatement is found in whole units, is no more than what is tolerable.
 * @throws RangeError where as much is expected as is tolerable
 */
export function monetaryUnitSize({ value, tolerable, expected, confidence }: SizeAsked): Size {
  if (expected >= tolerable) throw new RangeError('as much misstatement is expected as is tolerable');
  if (value === 0) return { size: 0, interval: tolerable, factor: confidenceFactor(0, confidence) };
  if (expected === 0) {
    const factor = confidenceFactor(0, confidence);
    const interval = Math.max(1, Math.floor(tolerable / factor));
    return { size: Math.ceil(value / interval), interval, factor };
  }
  for (let size = 1; size <= SIZE_MAX; size++) {
    const factor = confidenceFactor((size * expected) / value, confidence);
    if ((factor * value) / size <= tolerable) return { size, interval: Math.max(1, Math.floor(value / size)), factor };
  }
  throw new RangeError(`more than ${SIZE_MAX} items would be needed`);
}

/**
 * How many are tested for deviations: the fewest of which so many expected ones leave the highest likely rate no more than
 * what is tolerable (exact).
 * @param rate tolerable, as a part of one; expected likewise
 * @throws RangeError
 */
export function attributeSize(rate: number, expected: number, confidence: number): number {
  if (expected >= rate) throw new RangeError('as many deviations are expected as are tolerable');
  for (let size = 1; size <= SIZE_MAX; size++)
    if (upperDeviationRate(Math.ceil(size * expected - 1e-9), size, confidence) <= rate) return size;
  throw new RangeError(`more than ${SIZE_MAX} items would be needed`);
}

/** Which items monetary units fall on. Those of an interval or more are taken for certain, and stand apart. */
export function monetaryUnits(
  items: Iterable<Item>,
  interval: Minor,
  seed: string,
): { certain: string[]; drawn: string[] } {
  let next = firstUnit(interval, seed);
  let reached: Minor = 0;
  const certain: string[] = [];
  const drawn: string[] = [];
  for (const { key, amount } of items) {
    const value = Math.abs(amount);
    if (value === 0) continue;
    if (value >= interval) {
      certain.push(key);
      continue;
    }
    reached = add(reached, value);
    if (reached < next) continue;
    drawn.push(key);
    next = add(next, interval);
  }
  return { certain, drawn };
}

/** The first unit that is drawn, from 1 to the interval. */
export const firstUnit = (interval: Minor, seed: string): Minor =>
  1 + Math.floor((rolls(seed).next().value as number) * interval);

/** An item that was looked at. */
export interface Tested {
  booked: Minor;
  found: Minor;
  /** An item that was taken for certain: its error is known and not projected. */
  certain: boolean;
}

export interface TaintedError {
  booked: Minor;
  found: Minor;
  /** Error as a part of what is booked; negative where too little is booked. */
  tainting: number;
  certain: boolean;
  projected: Minor;
}

export interface Side {
  projected: Minor;
  /** Known, in what was taken for certain. */
  known: Minor;
  basicPrecision: Minor;
  /** What is added for each error found, the largest first. */
  incremental: Minor;
  upperLimit: Minor;
  /** Factors from no errors on, as far as they were needed. */
  factors: number[];
}

const rounded = (amount: number): Minor => exact(Math.round(amount));

/**
 * What a monetary unit sample tells of the whole, for overstatements and for understatements apart. Projected: tainting ×
 * interval each. Upper limit: basic precision (factor of no errors × interval), and for each error in order of tainting,
 * the largest first, the increment of the factor × tainting × interval; errors of what was taken for certain are added as
 * they are. A tainting counts as one at the most.
 */
export function evaluateMonetaryUnits(
  tested: readonly Tested[],
  interval: Minor,
  confidence: number,
): { errors: TaintedError[]; over: Side; under: Side } {
  const errors = tested
    .filter((t) => t.found !== t.booked)
    .map((t): TaintedError => {
      const tainting = t.booked === 0 ? 1 : (t.booked - t.found) / t.booked;
      const counted = Math.max(-1, Math.min(1, tainting));
      return {
        ...t,
        tainting,
        projected: t.certain ? exact(Math.abs(t.booked) - Math.abs(t.found)) : rounded(counted * interval),
      };
    });
  return { errors, over: sideOf(errors, 1), under: sideOf(errors, -1) };

  function sideOf(all: readonly TaintedError[], sign: 1 | -1): Side {
    const its = all.filter((e) => Math.sign(e.tainting) === sign);
    const drawn = its
      .filter((e) => !e.certain)
      .map((e) => Math.min(1, Math.abs(e.tainting)))
      .sort((a, b) => b - a);
    const factors = Array.from({ length: drawn.length + 1 }, (_, i) => confidenceFactor(i, confidence));
    const basicPrecision = rounded((factors[0] as number) * interval);
    const incremental = rounded(
      drawn.reduce(
        (all2, tainting, i) => all2 + ((factors[i + 1] as number) - (factors[i] as number)) * tainting * interval,
        0,
      ),
    );
    const known = sum(its.filter((e) => e.certain).map((e) => exact(Math.abs(e.projected))));
    const projected = add(known, sum(its.filter((e) => !e.certain).map((e) => exact(Math.abs(e.projected)))));
    return {
      ...{ projected, known, basicPrecision, incremental, factors },
      upperLimit: add(add(basicPrecision, incremental), known),
    };
  }
}

/** What was looked at of one stratum, with how much there is of it. */
export interface Stratum {
  items: number;
  value: Minor;
  tested: readonly Tested[];
}

/**
 * What a random, systematic or stratified sample tells of the whole: the mean difference of each stratum times its items
 * (difference estimation), and the limit above it by the standard error with the correction for a finite population. A
 * stratum that was looked at whole adds what it holds.
 */
export function evaluateDifferences(
  strata: readonly Stratum[],
  confidence: number,
): { projected: Minor; upperLimit: Minor; each: { projected: Minor; standardError: number }[] } {
  const each = strata.map(({ items, tested }) => {
    const differences = tested.map((t) => t.booked - t.found);
    const n = differences.length;
    if (n === 0) return { projected: 0, standardError: 0 };
    const mean = differences.reduce((all, d) => all + d, 0) / n;
    const variance = n === 1 ? 0 : differences.reduce((all, d) => all + (d - mean) ** 2, 0) / (n - 1);
    const left = items <= 1 ? 0 : Math.max(0, (items - n) / items);
    return { projected: rounded(mean * items), standardError: items * Math.sqrt((variance / n) * left) };
  });
  const projected = sum(each.map((e) => e.projected));
  const error = Math.sqrt(each.reduce((all, e) => all + e.standardError ** 2, 0));
  return { projected, upperLimit: add(projected, rounded(normalQuantile(confidence, 0, 1) * error)), each };
}

/** Bounds of strata that hold about the same value each, from amounts in ascending order; each the least of the next. */
export function proposedBounds(amounts: readonly Minor[], strata: number): Minor[] {
  const values = amounts.map(Math.abs).sort((a, b) => a - b);
  const each = sum(values) / strata;
  const bounds: Minor[] = [];
  let reached = 0;
  for (const value of values) {
    if (reached >= each * (bounds.length + 1) && value > (bounds.at(-1) ?? 0) && bounds.length < strata - 1)
      bounds.push(value);
    reached += value;
  }
  return bounds;
}
