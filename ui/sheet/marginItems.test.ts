import { expect, test } from 'vitest';
import type { MarginItem } from './Margin';
import { decorated, marksOf } from './marginItems';
import type { SheetRow } from './model';

const note = (row: number) => ({ row, note: { ink: 'reviewer' } }) as unknown as MarginItem;
const pin = (row: number, state = 'fresh') => ({ row, pin: { ink: 'preparer', state } }) as unknown as MarginItem;
const row = (standsOut?: string[]) => ({ key: 'a', cells: {}, standsOut }) as unknown as SheetRow;
const signs = (items: MarginItem[], at: number, standsOut?: string[]) =>
  decorated(row(standsOut), marksOf(items).get(at))
    ?.marks?.map((m) => m.sign)
    .join('');

test('a row bears all its signs: that it stands out, a note, a pin, each once', () => {
  const items = [note(1), note(1), pin(1), pin(2, 'drifted'), { row: 3, draft: {} } as unknown as MarginItem];
  expect(signs(items, 1)).toBe('^▪');
  expect(signs(items, 1, ['fares rose'])).toBe('!^▪');
  expect(signs(items, 2)).toBe('≠');
  expect([signs(items, 3), signs(items, 4), signs(items, 4, ['x'])]).toEqual([undefined, undefined, '!']);
  expect(decorated(undefined, marksOf(items).get(1))).toBeUndefined();
});

test('why a row stands out is told on pointing, its sign says only that it does', () => {
  const [mark] = decorated(row(['fares rose', 'above 50,000']), undefined)?.marks ?? [];
  expect(mark).toEqual({ sign: '!', says: 'stands out', why: 'fares rose; above 50,000' });
  expect(marksOf([note(0)]).get(0)).toEqual([{ sign: '^', says: 'has a note', ink: 'reviewer' }]);
});
