import { expect, test } from 'vitest';
import { ColumnError, columnHint, columnLabel, derived, isPercent, readColumn, withBases } from './columns';
import { statValue } from './lineStats';
import { amountOf, type Value } from './sheet';

const label = (text: string) => columnLabel(readColumn(text));
const keys = (...texts: string[]) => withBases(texts.map(readColumn)).map((c) => c.key);

test('a column is read as it is written, and called by what it is', () => {
  expect(
    [
      'window',
      'year-before',
      'budget:Plan 2027',
      'budget-ytd:Plan 2027',
      'change:year-before',
      'change%:year-before',
      'variance:Plan 2027',
      'share',
      'share:ytd',
      'in:NOK',
      'over:2026.01..2026.03',
      'over:2026-01-15..2026-01-15',
      'unposted',
      'largest',
      'quantity:year-before',
      'own|Left|+budget:Plan 2027|-window',
      'own|Ratio|window|/|ytd',
    ].map(label),
  ).toEqual([
    'This window',
    'Year before',
    'Budget Plan 2027',
    'Budget Plan 2027, year to date',
    'Change from year before',
    'Change from year before, %',
    'Variance from budget Plan 2027',
    'Share, %',
    'Share year to date, %',
    'In NOK',
    '2026.01 to 2026.03',
    '15 Jan 2026',
    'Unposted',
    'Largest line',
    'Quantity, year before',
    'Left',
    'Ratio, %',
  ]);
});

test('what is no column is refused with what is one', () => {
  for (const text of [
    'yesterday',
    'percent:ytd',
    'budget:',
    'change:',
    'change:nothing',
    'in:nok',
    'in:POUNDS',
    'over:2026.03..2026.01',
    'over:2026.01..2026-03-31',
    'over:soon',
    'lines:budget:Plan',
    'change:in:NOK',
    'own|Name',
    'own||+window',
    'own|x|+in:NOK',
    'own|x|window|/|',
    'own|x|+a|+a|+a|+a|+a|+a|+a',
  ])
    expect(() => readColumn(text), text).toThrow(ColumnError);
});

test('what a column is made of is asked before it, once, the window first', () => {
  expect(keys()).toEqual(['window']);
  expect(keys('change%:year-before', 'year-before')).toEqual(['window', 'year-before', 'change%:year-before']);
  expect(keys('variance-ytd:Plan')).toEqual(['window', 'ytd', 'budget-ytd:Plan', 'variance-ytd:Plan']);
  expect(keys('own|Left|+budget:Plan|-change:ytd')).toEqual([
    'window',
    'budget:Plan',
    'ytd',
    'change:ytd',
    'own|Left|+budget:Plan|-change:ytd',
  ]);
  expect(keys('largest:last-year')).toEqual(['window', 'last-year', 'largest:last-year']);
});

const values: Record<string, Value> = {
  window: amountOf(1_500),
  'year-before': amountOf(-1_000),
  ytd: amountOf(0),
  'budget:Plan': amountOf(2_000),
};
const wholes: Record<string, Value> = { window: amountOf(6_000), ytd: amountOf(0) };
const value = (text: string) =>
  derived(
    readColumn(text),
    (key) => values[key],
    (key) => wholes[key],
  );

test('changes, variances, shares and columns of one’s own are exact; over nothing there is nothing to say', () => {
  expect(value('change:year-before')).toEqual(amountOf(2_500));
  // Over the size of what was there before, whichever side it was on.
  expect(value('change%:year-before')).toEqual({ is: 'share', millionths: 2_500_000 });
  expect(value('change%:ytd')).toEqual({ is: 'share', millionths: null });
  expect(value('variance:Plan')).toEqual(amountOf(-500));
  expect(value('share')).toEqual({ is: 'share', millionths: 250_000 });
  expect(value('share:ytd')).toEqual({ is: 'share', millionths: null });
  expect(value('own|Left|+budget:Plan|-window')).toEqual(amountOf(500));
  expect(value('own|Left of change|+budget:Plan|-change:year-before')).toEqual(amountOf(-500));
  expect(value('own|Ratio|window|/|budget:Plan')).toEqual({ is: 'share', millionths: 750_000 });
  // What one of them does not know, none of them says.
  expect([value('change:last-year'), value('variance:Other'), value('own|x|+window|-last-year')]).toEqual([
    null,
    null,
    null,
  ]);
  expect([value('year-before'), value('in:NOK'), value('largest')]).toEqual([null, null, null]);
});

test('percent is said of what is percent, and every kind of column tells what it is', () => {
  const texts = ['window', 'ytd', 'over:2026.01..2026.02', 'in:NOK', 'budget:P', 'change:ytd', 'change%:ytd', 'share'];
  expect(texts.filter((t) => isPercent(readColumn(t)))).toEqual(['change%:ytd', 'share']);
  for (const text of [...texts, 'variance:P', 'unposted', 'adjustments', 'average', 'own|x|+ytd', 'own|x|ytd|/|window'])
    expect(columnHint(readColumn(text), null), text).toMatch(/\.$/);
  expect(columnHint(readColumn('share'), 'Total income')).toContain('“Total income”');
});

test('statistics of lines: of several units no quantity, of none no average, prices over what has a quantity', () => {
  const lines = {
    lines: 3,
    size: 1_000,
    quantity: 2_500_000n,
    unit: 'l',
    priced: 900,
    smallest: 100,
    largest: 600,
  };
  expect(statValue(lines, 'lines')).toEqual({ is: 'count', count: 3 });
  expect(statValue(lines, 'quantity')).toEqual({ is: 'quantity', millionths: 2_500_000n });
  expect(statValue(lines, 'per-unit')).toEqual(amountOf(360));
  // Half away from zero (method.md §1): 1,000 over 3, and −5 over 2.
  expect(statValue(lines, 'average')).toEqual(amountOf(333));
  expect(statValue({ ...lines, size: -5, lines: 2 }, 'average')).toEqual(amountOf(-3));
  expect(statValue({ ...lines, unit: '~several' }, 'quantity')).toBeNull();
  expect(statValue({ ...lines, unit: null }, 'per-unit')).toBeNull();
  expect(statValue({ ...lines, lines: 0, smallest: null }, 'average')).toBeNull();
  expect([statValue(lines, 'smallest'), statValue({ ...lines, largest: null }, 'largest')]).toEqual([
    amountOf(100),
    null,
  ]);
});
