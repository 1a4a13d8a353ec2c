import { expect, test } from 'vitest';
import { AS_IT_COMES, arranged, inOrder, moved, withShown } from './arrange';

const columns = ['name', 'opening', 'debit', 'credit', 'closing'].map((key) => ({ key, label: key, width: '100px' }));
const keys = (order: string[], of = columns) => inOrder(of, order).map((c) => c.key);

test('columns stand in a person’s order; those that came since stand where they come, and the first stays first', () => {
  expect(keys([])).toEqual(columns.map((c) => c.key));
  const order = moved(columns, 'closing', 'opening');
  expect(keys(order)).toEqual(['name', 'closing', 'opening', 'debit', 'credit']);
  const more = [...columns.slice(0, 2), { key: 'new', label: 'new', width: '100px' }, ...columns.slice(2)];
  expect(keys(order, more)).toEqual(['name', 'closing', 'opening', 'new', 'debit', 'credit']);
  // What the order names and the sheet no longer has is passed over.
  expect(keys(['gone', 'credit', 'opening', 'debit', 'closing'])).toEqual([
    'name',
    'credit',
    'opening',
    'debit',
    'closing',
  ]);
  expect(moved(columns, 'debit', 'name')).toEqual(['opening', 'debit', 'credit', 'closing']);
});

test('hidden columns are left out, but never the first; widths are one’s own', () => {
  const shown = arranged(columns, { ...AS_IT_COMES, hidden: ['name', 'debit'], widths: { credit: 64 } });
  expect(shown.map((c) => `${c.key} ${c.width}`)).toEqual([
    'name 100px',
    'opening 100px',
    'credit 64px',
    'closing 100px',
  ]);
  const [name, ...rest] = columns;
  const more = [
    name as (typeof columns)[0],
    { key: 'journal', label: 'Journal', width: '80px', onRequest: true },
    ...rest,
  ];
  expect(arranged(more, AS_IT_COMES).map((c) => c.key)).not.toContain('journal');
  const asked = withShown(
    withShown(AS_IT_COMES, more[1] as (typeof more)[0], true),
    more[2] as (typeof more)[0],
    false,
  );
  expect(arranged(more, asked).map((c) => c.key)).toEqual(['name', 'journal', 'debit', 'credit', 'closing']);
});
