import { expect, test } from 'vitest';
import { nextOf, type When } from './when';

const when = (more: Partial<When>): When => ({
  every: 'daily',
  day: null,
  days: [],
  time: '07:00',
  zone: 'UTC',
  ...more,
});

/** The moments that follow each other, as they are in UTC. */
function moments(of: When, from: string, many: number): string[] {
  const found: string[] = [];
  let at: Date | null = new Date(from);
  while (found.length < many && at) {
    at = nextOf(of, at);
    if (at) found.push(at.toISOString().slice(0, 16));
  }
  return found;
}

// Clocks in London go forward on the last Sunday of March, 01:00 UTC, and back on the last of October (Summer Time Act
// 1972 as amended by SI 2002/262): 28 March and 31 October 2027.
test('a time of day is met by the clocks of its zone, over the change to summer time and back', () => {
  const london = when({ zone: 'Europe/London' });
  expect(moments(london, '2027-03-26T12:00:00Z', 3)).toEqual([
    '2027-03-27T07:00',
    '2027-03-28T06:00',
    '2027-03-29T06:00',
  ]);
  expect(moments(london, '2027-10-29T12:00:00Z', 3)).toEqual([
    '2027-10-30T06:00',
    '2027-10-31T07:00',
    '2027-11-01T07:00',
  ]);
});

test('a time that clocks leave out is met that day, and one that comes twice is met once', () => {
  const night = when({ zone: 'Europe/London', time: '01:30' });
  const spring = moments(night, '2027-03-27T12:00:00Z', 2);
  expect(spring[0]?.slice(0, 10)).toBe('2027-03-28');
  expect(spring[1]).toBe('2027-03-29T00:30');
  const autumn = moments(night, '2027-10-30T12:00:00Z', 2);
  expect(autumn.map((at) => at.slice(0, 10))).toEqual(['2027-10-31', '2027-11-01']);
});

test('days of a week are those of ISO 8601, and Sunday is the seventh', () => {
  // 4 January 2027 is a Monday.
  expect(moments(when({ every: 'weekly', days: [1, 7] }), '2027-01-04T08:00:00Z', 3)).toEqual([
    '2027-01-10T07:00',
    '2027-01-11T07:00',
    '2027-01-17T07:00',
  ]);
});

test('a month that has no such day is met on its last', () => {
  expect(moments(when({ every: 'monthly', days: [30] }), '2027-01-31T00:00:00Z', 3)).toEqual([
    '2027-02-28T07:00',
    '2027-03-30T07:00',
    '2027-04-30T07:00',
  ]);
  expect(moments(when({ every: 'monthly', days: [0] }), '2028-01-31T12:00:00Z', 2)).toEqual([
    '2028-02-29T07:00',
    '2028-03-31T07:00',
  ]);
  expect(moments(when({ every: 'monthly', days: [1, 15] }), '2027-01-02T00:00:00Z', 3)).toEqual([
    '2027-01-15T07:00',
    '2027-02-01T07:00',
    '2027-02-15T07:00',
  ]);
});

test('once is once, by the clocks of its zone', () => {
  const once = when({ every: 'once', day: '2027-07-01', zone: 'America/New_York', time: '18:00' });
  expect(moments(once, '2027-01-01T00:00:00Z', 5)).toEqual(['2027-07-01T22:00']);
  expect(nextOf(once, new Date('2027-07-02T00:00:00Z'))).toBeNull();
});
