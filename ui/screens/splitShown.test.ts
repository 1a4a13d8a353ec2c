import { expect, test } from 'vitest';
import type { SplitSheet } from '@/contracts/answers/sheets';
import { cellAmount, cellText } from '../sheet/cell';
import { comparedCells, comparedColumns, type Heads, headsOf, isDerived } from './comparedSplit';
import { drawnRows, heldAgainst } from './drawnSplit';
import { shadedCell } from './shading';
import { COLUMNS, crossColumns, unfolded } from './splitColumns';

type Row = SplitSheet['rows'][number];

const balance = (movement: string, closing = movement) => ({
  ...{ opening: '0.00', debit: '0.00', credit: '0.00', movement, roll: '0.00', closing, count: 1 },
});
const row = (member: string, depth = 0, more: Partial<Row> = {}): Row => ({
  ...{ member, name: member, depth, refine: {}, address: '' },
  ...balance('10.00', '70.00'),
  ...more,
});
const head = (key: string, more: Partial<Heads[number]> = {}): Heads[number] => ({
  ...{ key, label: key, title: '', hint: 'What it is.', unit: 'amount', scope: {}, favourable: null },
  ...more,
});
const column = (member: string, within: string | null = null) => ({
  ...{ member, name: member, within, refine: {}, total: balance('0.00') },
});
const sheet = (more: Partial<SplitSheet>): SplitSheet => ({
  ...{ sentence: '', parts: [], address: '', currency: 'GBP', translated: false, load: 1 },
  ...{
    additive: ['movement', 'closing'],
    columns: [],
    rows: [],
    total: balance('0.00'),
    tie: { ok: true, offBy: '0' },
  },
  ...more,
});

test('rows of several levels fold by where they are, not by what they are called', () => {
  const rows = [row('A'), row('x', 1), row('deep', 2), row('y', 1), row('B'), row('x', 1), row('C')];
  const keys = (folded: string[]) => unfolded(rows, new Set(folded)).map((l) => l.key);
  expect(keys([])).toEqual(['A', 'A›x', 'A›x›deep', 'A›y', 'B', 'B›x', 'C']);
  // The same member below another stays open.
  expect(keys(['A›x'])).toEqual(['A', 'A›x', 'A›y', 'B', 'B›x', 'C']);
  expect(keys(['A'])).toEqual(['A', 'B', 'B›x', 'C']);
  expect(unfolded(rows, new Set()).map((l) => l.opens)).toEqual([true, true, false, false, true, false, false]);
});

test('what was traced leads: movement first where it was, and what stood before beside it', () => {
  const keys = (...of: Parameters<typeof COLUMNS>) => COLUMNS(...of).map((c) => c.key);
  expect(keys('Vessel', false, false)).toEqual(['member', 'opening', 'debit', 'credit', 'closing']);
  expect(keys('Vessel', false, true)[1]).toBe('movement');
  expect(keys('Currency', true, true).at(-1)).toBe('inCurrency');
});

test('an opened column stands after its parts and says that it is all of them', () => {
  const data = sheet({ columns: [column('Q1/Jan', 'Q1'), column('Q1/Feb', 'Q1'), column('Q1'), column('Q2')] });
  const columns = crossColumns('Vessel', data, 'no');
  expect(columns.map((c) => c.label)).toEqual(['Vessel', 'Q1/Jan', 'Q1/Feb', 'Q1, all', 'Q2', 'Together']);
  expect(columns[1]?.hint).toContain('a part of the column to its right');
  // An arrow needs room.
  expect(crossColumns('Vessel', data, 'change')[1]?.width).not.toBe(columns[1]?.width);
});

test('a variance is good where it is a credit, bad where it is a debit, and neither where it is nothing', () => {
  const heads = [head('window'), head('variance', { favourable: 'credit' }), head('share', { unit: 'percent' })];
  const cells = comparedCells(heads, { window: '5.00', variance: '-3.00', share: '12.5 %' });
  expect(cells.variance).toMatchObject({ is: 'amount', verdict: 'favourable' });
  expect(comparedCells(heads, { variance: '3.00' }).variance).toMatchObject({ verdict: 'adverse' });
  expect(comparedCells(heads, { variance: '0.00' }).variance).toMatchObject({ verdict: null });
  // A plan that was not set at this level says nothing, rather than nought.
  expect(cellText(comparedCells(heads, { variance: null }).variance)).toBe('');
  expect(comparedColumns('Vessel', heads, 'closing').map((c) => c.label)).toEqual([
    ...['Vessel', 'Closing balance', 'variance', 'share'],
  ]);
});

test('only a figure with lines of its own leads to them, and a row of time to its own time in each column', () => {
  const heads = [
    head('window'),
    head('before', { scope: { from: '2026.01', to: '2026.12' } }),
    head('change'),
    head('in:NOK'),
  ];
  const plain = row('MAREN');
  expect(heads.map((h) => isDerived(heads, h.key, plain))).toEqual([false, false, true, false]);
  const ofTime = row('2027.02', 0, { scopes: { before: { from: '2026.02', to: '2026.02' } } });
  expect(headsOf(ofTime, 'before', heads).find((h) => h.key === 'before')?.scope).toEqual({
    ...{ from: '2026.02', to: '2026.02' },
  });
  // A period that the other year has not: nothing to lead to.
  expect(isDerived(heads, 'before', row('2027.13', 0, { scopes: {} }))).toBe(true);
});

test('a picture draws the outermost rows, and holds them against another window, never against a difference', () => {
  const rows = [row('A'), row('x', 1), row('B', 0, { values: { before: '4.00' } })];
  const listed = unfolded(rows, new Set());
  const drawn = (data: SplitSheet, crossed = false) => drawnRows(listed, data, crossed, 'movement', 'closing');
  expect(drawn(sheet({})).map((d) => [d.index, d.value])).toEqual([
    [0, '70.00'],
    [2, '70.00'],
  ]);
  // What is not a sum of its rows in what it was is drawn in what moved.
  expect(drawn(sheet({ additive: ['movement'] }))[0]?.value).toBe('10.00');
  expect(drawn(sheet({}), true)[0]?.value).toBe('10.00');
  const compared = [head('window'), head('change'), head('in:NOK'), head('share', { unit: 'percent' }), head('before')];
  const data = sheet({ compared });
  expect(heldAgainst(data)?.key).toBe('before');
  expect(drawn(data).map((d) => d.beside)).toEqual([null, '4.00']);
  expect(heldAgainst(sheet({ compared: compared.slice(0, 4) }))).toBeUndefined();
});

test('shading darkens with the size, or with the change from the column before of its own kind', () => {
  const columns = [column('Q1/Jan', 'Q1'), column('Q1'), column('Q2')];
  const cells = [balance('40.00'), balance('100.00'), balance('-50.00')];
  const shaded = (shading: 'no' | 'size' | 'change', at: number, most = 200) =>
    shadedCell(shading, columns, cells, at, 'movement', most) as {
      shade?: { share: number; fell?: boolean; arrow?: string };
    };
  expect(shaded('no', 1).shade).toBeUndefined();
  expect(shaded('size', 2).shade).toEqual({ share: 0.25 });
  // Against the quarter before, not the month that is a part of it.
  expect(shaded('change', 2).shade).toMatchObject({ share: 0.75, fell: true, arrow: 'less' });
  expect(shaded('change', 1).shade).toBeUndefined();
  // What hardly changed bears no arrow, since everything would.
  expect(shaded('change', 2, 10_000).shade?.arrow).toBeUndefined();
  expect(cellAmount(shaded('change', 2) as never)).toBe('-50.00');
});
