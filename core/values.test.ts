import { expect, test } from 'vitest';
import { compareDecimals, exactly, numberPicked, oneValue, rangeOf, valuePicked } from './values';

test('a value is asked for by itself, by a pattern, by two ends, or letter by letter', () => {
  expect(valuePicked(['INV-7'], 'INV-7')).toBe(true);
  expect(valuePicked(['inv-*'], 'INV-7')).toBe(true);
  expect(valuePicked(['*7?'], 'INV-7')).toBe(false);
  expect(valuePicked([null], null)).toBe(true);
  expect(valuePicked(['*'], null)).toBe(false);
  for (const odd of ['why?', 'a..b', '100*', '~none', '~is:x', '..']) {
    expect(oneValue(exactly(odd))).toBe(odd);
    expect(valuePicked([exactly(odd)], odd)).toBe(true);
    expect(valuePicked([exactly(odd)], `${odd}x`)).toBe(false);
  }
  expect(valuePicked([exactly('why?')], 'whys')).toBe(false);
});

test('ranges: digits as numbers, dates with the whole of their day or month, codes of one length, else letter by letter', () => {
  const within = (range: string, value: string): boolean => valuePicked([range], value);
  expect(within('9..10', '10')).toBe(true);
  expect(within('9..10', '9.5')).toBe(false);
  expect(within('100..', '99')).toBe(false);
  expect(within('2026-07-01..2026-07-31', '2026-07-31T18:00')).toBe(true);
  expect(within('2026-07..2026-08', '2026-08-31')).toBe(true);
  expect(within('..2026-07', '2026-08-01')).toBe(false);
  expect(within('INV-100..INV-199', 'INV-1500')).toBe(false);
  expect(within('INV-100..INV-199', 'INV-150')).toBe(true);
  expect(within('M..', 'Nora')).toBe(true);
  expect(rangeOf('..')).toBeNull();
});

test('decimals are compared exactly, whatever their size and scale', () => {
  expect(compareDecimals('0.1', '0.10')).toBe(0);
  expect(compareDecimals('-2', '1')).toBe(-1);
  expect(compareDecimals('9007199254740993', '9007199254740992.999')).toBe(1);
  expect(numberPicked([{ from: '0.30', to: null }], '0.3')).toBe(true);
  expect(numberPicked([{ from: null, to: '5' }, null], null)).toBe(true);
  expect(() => compareDecimals('1,5', '2')).toThrow('no number');
});
