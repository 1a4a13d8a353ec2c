import { expect, test } from 'vitest';
import { calendar } from './calendar';
import { NAMED_WINDOWS, yearToDate } from './windows';

// Period numbers count from the first month of the fiscal year; the year is named by the calendar year in which it ends
// (common practice).
const april = calendar({ kind: 'monthly', start: '04', adjustmentPeriods: 1 });
const weeks = calendar({
  kind: 'weeks',
  pattern: '4-5-4',
  yearEnds: { weekday: 6, month: 1, rule: 'nearest' },
  adjustmentPeriods: 0,
});
const extent = { first: 2501, last: 2706 };
const named = (name: string, today: string, cal = april) => NAMED_WINDOWS[name]?.(cal, today, extent);

test('named windows are whole periods by the calendar and the day', () => {
  expect(named('current-period', '2026-10-05')).toEqual({ from: 2707, to: 2707 });
  expect(named('last-period', '2026-10-05')).toEqual({ from: 2706, to: 2706 });
  expect(named('previous-month', '2026-10-05')).toEqual({ from: 2706, to: 2706 });
  expect(named('previous-month', '2026-04-01')).toEqual({ from: 2612, to: 2612 });
  expect(named('last-year-end', '2026-10-05')).toEqual({ from: 2501, to: 2613, fromFirst: true });
  expect(named('last-year', '2026-10-05')).toEqual({ from: 2601, to: 2613 }); // with its adjustment period
  expect(named('latest-period', '2026-10-05')).toEqual({ from: 2706, to: 2706 });
  expect(named('everything', '2026-10-05')).toEqual({ from: 2501, to: 2706, fromFirst: true });
});

test('a window up to today ends with the last period that has lines, says so, and can be told to go on', () => {
  expect(named('year-to-date', '2026-10-05')).toEqual({ from: 2701, to: 2706, endsAtLines: true });
  expect(named('trailing-12', '2026-10-05')).toEqual({ from: 2607, to: 2706, endsAtLines: true });
  const goesOn = (name: string) => NAMED_WINDOWS[name]?.(april, '2026-10-05', extent, true);
  expect(goesOn('year-to-date')).toEqual({ from: 2701, to: 2707 });
  // A new year in which nothing is booked yet: the year so far is the one that has lines.
  expect(NAMED_WINDOWS['year-to-date']?.(april, '2027-04-10', extent)).toEqual({
    from: 2701,
    to: 2706,
    endsAtLines: true,
  });
});

test('they pass over the turn of a year without its adjustment period', () => {
  expect(named('last-period', '2026-04-01')).toEqual({ from: 2612, to: 2612 });
  expect(named('trailing-12', '2026-06-30')).toEqual({ from: 2604, to: 2703 });
  expect(named('year-to-date', '2026-04-01')).toEqual({ from: 2701, to: 2701 });
});

test('the year to date of a 4-5-4 year begins with its first week, whatever month that lies in', () => {
  const spring = weeks.periodAt('2026-05-10');
  expect(yearToDate(weeks, spring.ordinal)).toEqual({ from: spring.year * 100 - 200_000 + 1, to: spring.ordinal });
  expect(named('trailing-12', '2026-05-10', weeks)).toEqual({ from: spring.ordinal - 99, to: spring.ordinal });
});
