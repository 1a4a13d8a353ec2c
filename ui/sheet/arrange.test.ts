import { expect, test } from 'vitest';
import { AS_IT_COMES, inOrder, isShown, moved, withShown } from './arrange';
import type { Column } from './gridModel';

const columns = ['name', 'opening', 'debit', 'credit', 'closing'].map((key) => ({ key, label: key, width: '100px' }));
const all = columns.map((c) => c.key);
const keys = (order: string[], of = columns) => inOrder(of, order).map((c) => c.key);

test('columns stand in a person’s order; those that came since stand where they come, and the first stays first', () => {
  expect(keys([])).toEqual(columns.map((c) => c.key));
  const order = moved(all, 'closing', 'opening');
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
  expect(moved(all, 'debit', 'name')).toEqual(['opening', 'debit', 'credit', 'closing']);
});

test('a column is hidden by whoever hides it; one on request is shown by whoever asks for it', () => {
  const [, opening, debit] = columns as [Column, Column, Column];
  const journal: Column = { key: 'journal', label: 'Journal', width: '80px', onRequest: true };
  expect([isShown(opening, AS_IT_COMES), isShown(journal, AS_IT_COMES)]).toEqual([true, false]);
  const asked = withShown(withShown(AS_IT_COMES, journal, true), opening, false);
  expect([isShown(opening, asked), isShown(journal, asked), isShown(debit, asked)]).toEqual([false, true, true]);
  expect(withShown(withShown(asked, journal, false), opening, true)).toEqual(AS_IT_COMES);
});
