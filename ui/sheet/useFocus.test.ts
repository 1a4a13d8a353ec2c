import { expect, test } from 'vitest';
import { amountCell } from './cell';
import type { SheetModel, SheetRow } from './model';
import { firstRow } from './useFocus';

const sheet = (...rows: Partial<SheetRow>[]) =>
  ({
    columns: [{ key: 'caption' }, { key: 'window' }],
    count: rows.length,
    rowAt: (i: number) => rows[i],
  }) as unknown as SheetModel;
const caption = { look: 'heading' as const, cells: { caption: 'Income', window: '' } };
const fares = { cells: { caption: 'Fares', window: amountCell('12.00') } };

test('a sheet begins on its first figure, past captions that have none; with nothing else on its first row', () => {
  expect(firstRow(sheet(caption, caption, fares), 1)).toBe(2);
  expect(firstRow(sheet(caption, caption), 1)).toBe(0);
  expect(firstRow(sheet(), 1)).toBe(0);
  // A heading with a total is a figure, and so is a row of nothing.
  expect(firstRow(sheet({ ...caption, cells: { window: amountCell('5.00') } }, fares), 1)).toBe(0);
  expect(firstRow(sheet({ cells: { window: '' } }, fares), 1)).toBe(0);
});
