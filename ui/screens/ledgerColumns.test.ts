import { expect, test } from 'vitest';
import { isSort, LINE_FIELDS, SORTS } from '@/core/lineFields';
import { columnOf, ledgerColumns } from './ledgerColumns';

const DIMENSIONS = [
  { code: 'vessel', name: 'Vessel' },
  { code: 'route', name: 'Route' },
];
const keys = (view: Partial<Parameters<typeof ledgerColumns>[0]> = {}): string[] =>
  ledgerColumns({ oneAccount: false, ...view }, DIMENSIONS).map((c) => c.key);

test('whatever a line has that is worth a heading has one column, and every dimension', () => {
  const found = keys();
  expect(new Set(found).size).toBe(found.length);
  for (const field of LINE_FIELDS) {
    const has = found.filter((key) => key === columnOf(field)).length;
    const amounts = ['debit', 'credit', 'balance'];
    if (field.heading !== null && !amounts.includes(field.name)) expect(`${field.name} ${has}`).toBe(`${field.name} 1`);
  }
  expect(found).toEqual(expect.arrayContaining(['dim:vessel', 'dim:route', 'load', 'other', 'debit', 'credit']));
  // The day of posting is first, amounts are last, the balance after what makes it.
  expect(found[0]).toBe('date');
  expect(found.slice(-3)).toEqual(['debit', 'credit', 'balance']);
});

test('what can be sorted is what the route sorts by, and nothing that it refuses', () => {
  for (const column of ledgerColumns({ oneAccount: false }, DIMENSIONS))
    expect(`${column.key} ${column.sortable}`).toBe(`${column.key} ${isSort(column.key)}`);
  // What stands within another column, as the currency beside its amount, has none to be sorted by.
  const within = LINE_FIELDS.filter((f) => f.heading === null).map((f) => f.name as string);
  const missing = SORTS.filter((s) => s !== 'amount' && !within.includes(s) && !keys().includes(s));
  expect(missing).toEqual([]);
});

test('a ledger of one account does not repeat it on every line', () => {
  expect(keys({ oneAccount: true })).toEqual(keys().filter((k) => k !== 'account'));
});

test('amounts are set to the right, and a balance that runs from nothing is not called one', () => {
  const of = (view: Partial<Parameters<typeof ledgerColumns>[0]>) => {
    const columns = ledgerColumns({ oneAccount: true, ...view }, DIMENSIONS);
    return (key: string) => columns.find((c) => c.key === key);
  };
  expect(of({})('balance')).toMatchObject({ label: 'Balance', amount: true });
  expect(of({ running: true })('balance')).toMatchObject({ label: 'Running' });
  expect(of({ running: true })('balance')?.hint).toMatch(/moved/);
  for (const key of ['quantity', 'unitPrice', 'taxAmount', 'currencyAmount', 'debit'])
    expect(`${key} ${of({})(key)?.amount}`).toBe(`${key} true`);
  for (const key of ['date', 'description', 'dim:vessel']) expect(of({})(key)?.amount ?? false).toBe(false);
});

test('a part of each line that was traced has the last column, and whole amounts give way to it', () => {
  for (const part of ['allotted', 'tax'] as const) {
    const columns = ledgerColumns({ oneAccount: false, part }, []);
    expect(columns.at(-1)?.key).toBe('part');
    expect(columns.at(-1)?.hint).toMatch(/line/);
    expect(columns.find((c) => c.key === 'balance')?.onRequest).toBe(true);
  }
  // The tax beside lines that are asked for by their tax code; not twice where the tax itself was traced.
  const tax = (view: Partial<Parameters<typeof ledgerColumns>[0]>) =>
    ledgerColumns({ oneAccount: false, ...view }, []).find((c) => c.key === 'taxAmount')?.onRequest ?? false;
  expect([tax({}), tax({ taxed: true }), tax({ taxed: true, part: 'tax' })]).toEqual([true, false, true]);
});
