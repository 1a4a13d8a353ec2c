import { expect, test } from 'vitest';
import { calendar, periodText } from './calendar';
import { type TypedWindow, typedStatus, typedWindow } from './typedWindow';

const april = calendar({ kind: 'monthly', start: '04', adjustmentPeriods: 1 });
const weeks = calendar({
  kind: 'weeks',
  pattern: '4-4-5',
  yearEnds: { weekday: 6, month: 12, rule: 'last' },
  adjustmentPeriods: 0,
});

const said = (found: TypedWindow | null): string => {
  if (!found) return 'no window';
  const { window, periods } = found;
  if (periods) return periods.map(periodText).join(' and ');
  return window.by === 'date'
    ? `${window.from} to ${window.to}`
    : `${periodText(window.from)} to ${periodText(window.to)}`;
};

// The fiscal year 2027 begins in April 2026; the latest booked period is September 2026.
test.each([
  ['2027.02', '2027.02 to 2027.02'],
  ['period 2027.13', '2027.13 to 2027.13'],
  ['2027.02 to 2027.05', '2027.02 to 2027.05'],
  ['2027.02..2027.05', '2027.02 to 2027.05'],
  ['2027.02 and 2027.05', '2027.02 and 2027.05'],
  ['2027.05, 2027.02, 2026.01', '2026.01 and 2027.02 and 2027.05'],
  ['July', '2027.04 to 2027.04'],
  ['jul', '2027.04 to 2027.04'],
  ['Sept', '2027.06 to 2027.06'],
  ['October', '2026.07 to 2026.07'],
  ['March', '2026.12 to 2026.12'],
  ['July 2025', '2026.04 to 2026.04'],
  ['July last year', '2026.04 to 2026.04'],
  ['in July 2026', '2027.04 to 2027.04'],
  ['July to September', '2027.04 to 2027.06'],
  ['Jan to March 2026', '2026.10 to 2026.12'],
  ['July 2025 to June 2026', '2026.04 to 2027.03'],
  ['Q2', '2027.04 to 2027.06'],
  ['Q3', '2026.07 to 2026.09'],
  ['q2 last year', '2026.04 to 2026.06'],
  ['Q4 2026', '2026.10 to 2026.12'],
  ['fiscal 2026', '2026.01 to 2026.13'],
  ['FY2027', '2027.01 to 2027.13'],
  ['this year', '2027.01 to 2027.13'],
  ['last fiscal year', '2026.01 to 2026.13'],
  ['3 Jul 2026', '2026-07-03 to 2026-07-03'],
  ['2026-07-03 to 2026-07-10', '2026-07-03 to 2026-07-10'],
  // What is no window of this calendar is none at all, rather than another one.
  ['2027.14', 'no window'],
  ['2027.05 to 2027.02', 'no window'],
  ['July to 2026-09-03', 'no window'],
  ['31 Jun 2026', 'no window'],
  ['Q5', 'no window'],
  ['Q2 whenever', 'no window'],
  ['marina', 'no window'],
  ['may', '2027.02 to 2027.02'],
  ['6310', 'no window'],
  ['', 'no window'],
])('“%s” is %s', (words, window) => {
  expect(said(typedWindow(words, april, 2706))).toBe(window);
});

test('where periods are weeks a month is its days, and a quarter its three periods', () => {
  expect(said(typedWindow('July 2026', weeks, 2609))).toBe('2026-07-01 to 2026-07-31');
  expect(said(typedWindow('Q2', weeks, 2609))).toBe('2026.04 to 2026.06');
});

test.each([
  ['unposted', 'unposted'],
  ['only unposted lines', 'unposted'],
  ['posted and unposted', 'all'],
  ['posted', 'posted'],
  ['posted by mara', null],
])('“%s” counts %s', (words, status) => {
  expect(typedStatus(words)).toBe(status);
});
