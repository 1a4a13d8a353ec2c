import { expect, test } from 'vitest';
import type { ColumnHead } from '@/core/sheet';
import { amountCell } from './cell';
import { cellFigure } from './cellFigure';
import { columnName, columnWord } from './columnWord';
import type { Column } from './gridModel';
import type { SheetModel, SheetRow } from './model';
import { severalRows } from './severalRows';
import { WHOLE, wholeRow } from './wholeRow';

const COLUMNS: Column[] = [
  { key: 'member', label: 'Vessel', width: '1fr' },
  { key: 'closing', label: 'Closing', width: '1fr', amount: true },
  { key: 'balance', label: 'Running', width: '1fr', amount: true },
  { key: 'variance', label: 'Variance', width: '1fr', amount: true },
];
const row = (key: string, closing: string, more: Partial<SheetRow> = {}): SheetRow => ({
  ...{ key, label: key, subject: `figure:${key}`, put: { 'dim.vessel': [key] }, count: 3, standsOut: ['odd'] },
  cells: { member: key, closing: amountCell(closing) },
  step: () => null,
  say: () => '',
  ...more,
});
const sheetOf = (rows: SheetRow[]): SheetModel => ({
  ...{
    label: 'Split',
    columns: COLUMNS,
    count: rows.length,
    parts: [],
    tie: null,
    stale: false,
    loading: false,
    error: null,
  },
  rowAt: (i) => rows[i],
  indexOf: (key) => rows.findIndex((r) => r.key === key),
});

test('rows chosen together ask for all of them, and say what they come to to the last penny', () => {
  const several = severalRows(
    sheetOf([row('MAREN', '0.10'), row('SKARN', '0.20'), row('BRENNA', '-5.00')]),
    new Set([2, 0, 1]),
  );
  expect(several?.together).toMatchObject({
    label: 'MAREN and 2 more',
    put: { 'dim.vessel': ['MAREN', 'SKARN', 'BRENNA'] },
    // What is kept about one row is not about several.
    subject: null,
  });
  expect(several?.together?.standsOut).toBeUndefined();
  expect(several?.says('closing', 'Closing')).toBe('Closing: (4.70) together, (1.57) on average, from (5.00) to 0.20.');
  expect(several?.says('member', 'Vessel')).toBe('Choose a column of amounts to add them up.');
});

test('rows that cannot be said as one figure are added up and ask for nothing', () => {
  const unlike = [row('MAREN', '1.00'), row('3100', '2.00', { put: { accounts: ['3100'] } })];
  expect(severalRows(sheetOf(unlike), new Set([0, 1]))).toMatchObject({ together: null });
  expect(severalRows(sheetOf(unlike), new Set([0, 1]))?.says('closing', 'Closing')).toContain('3.00 together');
  const silent = [row('MAREN', '1.00'), row('~', '2.00', { put: null })];
  expect(severalRows(sheetOf(silent), new Set([0, 1]))?.together).toBeNull();
  // One row is no several; nor is one of which another is not at hand yet.
  expect(severalRows(sheetOf(unlike), new Set([0]))).toBeNull();
  expect(severalRows(sheetOf([row('MAREN', '1.00')]), new Set([0, 7]))).toBeNull();
});

test('what is added up is the amount of the figure, where the cell shows another', () => {
  const rows = [row('a', '9.00', { amounts: { closing: '1.00' } }), row('b', '9.00', { amounts: { closing: '2.00' } })];
  expect(severalRows(sheetOf(rows), new Set([0, 1]))?.says('closing', 'Closing')).toContain('3.00 together');
});

test('the figure of a cell under another window asks for the row there; a difference has none', () => {
  const columns: ColumnHead[] = [
    { key: 'window', label: '', title: '', hint: '', unit: 'amount', scope: {} },
    {
      key: 'before',
      label: '',
      title: '',
      hint: '',
      unit: 'amount',
      scope: { from: '2026.04', to: '2026.06' },
    },
    { key: 'change', label: '', title: '', hint: '', unit: 'amount', scope: {} },
  ];
  const figure = (column: string) =>
    cellFigure(columns, column, 'entity=KSF&window=this-quarter', { accounts: ['5210'] }, 'movement');
  const before = figure('before');
  expect(before).toMatchObject({
    put: { accounts: ['5210'], from: ['2026.04'], to: ['2026.06'] },
    measure: 'movement',
  });
  // A named window gives way to ends, else the figure that is kept would ask two things.
  expect(before?.subject).not.toContain('window');
  expect(before?.subject).toContain('from=2026.04');
  expect(figure('window')?.subject).toContain('window=this-quarter');
  expect([figure('change'), figure('debit')]).toEqual([null, undefined]);
  expect(cellFigure(undefined, 'window', '', {}, 'closing')).toBeUndefined();
});

test('the total of a sheet is a row that asks for all of it', () => {
  const whole = wholeRow({ closing: amountCell('7.00') }, 'entity=KSF', { view: 'lines' });
  expect(whole).toMatchObject({ key: WHOLE, put: {}, opens: true, look: 'total' });
  expect(whole.step('closing')).toMatchObject({ view: 'lines', row: WHOLE, column: 'closing', put: {} });
  // Where all is on the sheet already it leads nowhere, and says so to screen readers by not opening.
  const leaf = wholeRow({}, 'entity=KSF', null);
  expect([leaf.opens, leaf.step('closing')]).toEqual([undefined, null]);
});

test('a column is called in a sentence what it is, not what there was room for', () => {
  const model = sheetOf([]);
  expect([0, 1, 2, 3, 9].map((i) => columnWord(model, i))).toEqual([
    ...['vessel', 'closing balance', 'running movement', 'variance', ''],
  ]);
  expect(columnName(model, 3)).toBe('Variance');
  const ledger = { ...model, columns: [{ key: 'balance', label: 'Balance', width: '1fr' }] };
  expect(columnWord(ledger, 0)).toBe('balance');
});
