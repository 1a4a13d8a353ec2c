import fc from 'fast-check';
import { expect, test } from 'vitest';
import { spread, whatMoved } from './whatMoved';

const money = fc.integer({ min: -1e9, max: 1e9 });
const sums = fc.dictionary(fc.constantFrom('a', 'b', 'c', 'd', 'e', 'f'), money).map((d) => new Map(Object.entries(d)));

test('the parts make the whole change exactly, and the telling members make at least four fifths of it', () => {
  fc.assert(
    fc.property(sums, sums, (before, now) => {
      const moved = whatMoved(before, now);
      const total = (m: Map<string, number>): number => [...m.values()].reduce((a, b) => a + b, 0);
      expect(moved.change).toBe(total(now) - total(before));
      const telling = moved.movers.slice(0, moved.concentration).reduce((a, m) => a + Math.abs(m.change), 0);
      expect(telling * 10).toBeGreaterThanOrEqual(moved.gross * 8);
      if (moved.concentration > 0)
        expect((telling - Math.abs(moved.movers[moved.concentration - 1]?.change ?? 0)) * 10).toBeLessThan(
          moved.gross * 8,
        );
    }),
  );
});

test('new and vanished members are named, and one that explains all outranks an even spread', () => {
  const one = whatMoved(
    new Map([
      ['a', 100],
      ['b', 100],
    ]),
    new Map([
      ['a', 100],
      ['c', 900],
    ]),
  );
  expect(one.movers.map((m) => [m.member, m.change, m.is])).toEqual([
    ['c', 900, 'new'],
    ['b', -100, 'gone'],
    ['a', 0, 'there'],
  ]);
  const even = whatMoved(
    new Map(),
    new Map([
      ['a', 10],
      ['b', 10],
      ['c', 10],
      ['d', 10],
    ]),
  );
  expect([one.concentration, even.concentration, one.weight < even.weight]).toEqual([1, 4, true]);
});

test('mean and deviation, by hand: 2 4 4 4 5 5 7 9 have mean 5 and deviation 2', () => {
  expect(spread([2, 4, 4, 4, 5, 5, 7, 9])).toEqual({ mean: 5, deviation: 2 });
  expect(spread([-3, -4])).toEqual({ mean: -4, deviation: 1 }); // −3.5 and 0.5, half away from zero
  expect(spread([7])).toBeNull();
});
