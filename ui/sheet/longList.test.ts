import fc from 'fast-check';
import { expect, test } from 'vitest';
import { elementHeight, intoSight, type Place, placeAt, scrolled, TALLEST_PX } from './longList';

const VIEW = 700;
const at = ({ top, shift }: Place): number => top + shift;
/** Heights of lists: of some rows, as tall as an element may be, and of ten million rows. */
const wholes = fc.oneof(
  fc.integer({ min: 0, max: 20_000 }),
  fc.integer({ min: 1, max: 10_000_000 }).map((n) => n * 28),
);

test('a list that an element can hold is the element', () => {
  expect(scrolled(123, { top: 0, shift: 0 }, { whole: TALLEST_PX, view: VIEW })).toEqual({ top: 123, shift: 0 });
  expect(placeAt(9_999, { whole: 10_000, view: VIEW })).toEqual({ top: 9_300, shift: 0 });
});

test('every place of a list can be gone to, within the element, and both end together', () => {
  fc.assert(
    fc.property(wholes, fc.double({ min: 0, max: 1, noNaN: true }), (whole, share) => {
      const last = Math.max(0, whole - VIEW);
      const wanted = Math.round(last * share);
      const found = placeAt(wanted, { whole, view: VIEW });
      expect(at(found)).toBe(wanted);
      const end = Math.max(0, elementHeight(whole) - VIEW);
      expect(found.top).toBeGreaterThanOrEqual(0);
      expect(found.top).toBeLessThanOrEqual(end);
      if (wanted === 0) expect(found.top).toBe(0);
      if (wanted === last) expect(found.top).toBe(end);
    }),
  );
});

test('wheel and keys move over the list pixel by pixel and come to both ends; a pull goes to the same share of it', () => {
  const heights = { whole: 280_000_000, view: VIEW };
  const end = TALLEST_PX - VIEW;
  fc.assert(
    fc.property(
      fc.array(
        fc.oneof(
          fc.record({ by: fc.integer({ min: -2_000, max: 2_000 }) }),
          fc.record({ to: fc.double({ min: 0, max: 1, noNaN: true }) }),
        ),
        { maxLength: 60 },
      ),
      (moves) => {
        let place = placeAt(0, heights);
        for (const move of moves) {
          const top = Math.max(0, Math.min(end, 'by' in move ? place.top + move.by : Math.round(end * move.to)));
          const before = place;
          place = scrolled(top, before, heights);
          if (Math.abs(top - before.top) <= 4 * VIEW) expect(at(place)).toBe(before.shift + top);
          else expect(Math.abs(at(place) / heights.whole - top / TALLEST_PX)).toBeLessThan(0.02);
          expect(at(place)).toBeGreaterThanOrEqual(0);
          expect(at(place)).toBeLessThanOrEqual(heights.whole - VIEW);
        }
      },
    ),
  );
  // From the middle of the list on, by a wheel alone, up to its first row.
  let place = placeAt(400_000, heights);
  for (let i = 0; i < 1_000 && at(place) > 0; i++) place = scrolled(Math.max(0, place.top - 600), place, heights);
  expect(place).toEqual({ top: 0, shift: 0 });
});

test('a row is brought into sight by the shortest way', () => {
  const heights = { whole: 100_000, view: VIEW };
  expect(intoSight(1_000, { top: 1_200, height: 28 }, heights)).toBe(1_000);
  expect(intoSight(1_000, { top: 900, height: 28 }, heights)).toBe(900);
  expect(intoSight(1_000, { top: 1_690, height: 28 }, heights)).toBe(1_018);
});
