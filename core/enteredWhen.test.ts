import { expect, test } from 'vitest';
import { enteredThen, enteredWhen, enteredWhenWords } from './enteredWhen';

// 1 January 2000 was a Saturday, and 28 December 2026 a Monday (ISO 8601-1:2019 numbers Monday as 1).
test('the day of the week and the hour are read as they are written', () => {
  expect(enteredWhen('2000-01-01')).toEqual({ weekday: 'sat', hour: 'untold' });
  expect(enteredWhen('2026-12-28T09:05:00Z')).toEqual({ weekday: 'mon', hour: 9 });
  expect(enteredWhen('2026-12-28 23:59')).toEqual({ weekday: 'mon', hour: 23 });
  expect(enteredWhen('2026-12-28T24:00')).toEqual({ weekday: 'mon', hour: 'untold' });
  for (const none of [null, '', 'yesterday', '28.12.2026', '0000-01-01', '2026-13-01', '2026-12-32'])
    expect([none, enteredWhen(none)]).toEqual([none, null]);
});

test('a time of a week is asked for by its day, its hour, or both', () => {
  const at = '2026-12-28T09:05';
  for (const [wanted, is] of [
    ['mon', true],
    ['mon.09', true],
    ['.09', true],
    ['mon.10', false],
    ['tue.09', false],
    ['mon.--', false],
  ] as const)
    expect([wanted, enteredThen(at, [wanted])]).toEqual([wanted, is]);
  expect(enteredThen('2026-12-28', ['.--', 'sun'])).toBe(true);
  expect(enteredThen(null, ['mon', '.09', '.--'])).toBe(false);
  expect(enteredWhenWords('sat.14')).toBe('on Saturdays between 14:00 and 15:00');
  expect(() => enteredWhenWords('sat.24')).toThrow(RangeError);
});
