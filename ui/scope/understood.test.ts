import { expect, test } from 'vitest';
import { understood } from './understood';

const clauses = [
  { name: 'journal', label: 'a journal' },
  { name: 'dim.costcentre', label: 'cost centre' },
];
const dimensions = [
  { code: 'costcentre', name: 'Cost centre', members: [{ code: 'HARB', name: 'Harbour crew', parent: null }] },
];
const accounts = [
  { account: '6410', name: 'Harbour dues' },
  { account: '4110', name: 'Passenger fares' },
];
const read = (words: string) => understood(words, clauses, dimensions, accounts, (text) => text.replaceAll(',', ''));
const said = (words: string) => read(words).map((r) => `${r.kind} ${r.name}`);

test('a word that fits several things is offered as each of them, and last of all as words of a description', () => {
  expect(said('har')).toEqual([
    'account 6410 Harbour dues',
    'cost centre Harbour crew, HARB',
    'descriptions with “har”',
  ]);
  expect(said('HARB')[0]).toBe('cost centre Harbour crew, HARB');
  expect(said('dues')[0]).toBe('account 6410 Harbour dues');
  expect(read('4110')[0]?.put).toEqual({ accounts: ['4110'] });
  expect(read('journ')[0]).toMatchObject({ opens: 'journal' });
});

test('amounts are understood as they are said; nothing typed offers every clause', () => {
  expect(read('over 5,000')[0]?.put).toEqual({ min: ['5000'] });
  expect(read('up to 20')[0]?.put).toEqual({ max: ['20'] });
  expect(read('between 10 and 1,000.50')[0]?.put).toEqual({ min: ['10'], max: ['1000.50'] });
  expect(read('  ').map((r) => r.opens)).toEqual(['journal', 'dim.costcentre']);
});

test('any column of the ledger is asked for by its name: equal, contains, begins, between, over, not, none', () => {
  const sayable = [
    { name: 'document', words: ['document number', 'document'], isNumber: false },
    { name: 'documentType', words: ['document type'], isNumber: false },
    { name: 'quantity', words: ['quantity'], isNumber: true },
  ];
  const put = (words: string) =>
    understood(words, clauses, dimensions, accounts, (t) => t.replaceAll(',', ''), [], sayable)[0]?.put;
  expect(put('document INV-7')).toEqual({ document: ['INV-7'] });
  expect(put('document is INV-7')).toEqual({ document: ['INV-7'] });
  expect(put('document begins INV-')).toEqual({ document: ['INV-*'] });
  expect(put('document contains 77')).toEqual({ document: ['*77*'] });
  expect(put('not document contains 77')).toEqual({ document: ['~not:*77*'] });
  expect(put('document does not contain 77')).toEqual({ document: ['~not:*77*'] });
  expect(put('document between A1 and A9')).toEqual({ document: ['A1..A9'] });
  expect(put('document none')).toEqual({ document: ['~none'] });
  expect(put('document type invoice')).toEqual({ documentType: ['invoice'] });
  expect(put('quantity over 1,000')).toEqual({ quantity: ['1000..'] });
  expect(put('quantity not from 5 to 10.5')).toEqual({ quantity: ['~not:5..10.5'] });
  expect(put('quantity up to 3')).toEqual({ quantity: ['..3'] });
});

test('a crosstab is typed: each word is completed, one that fits several things is asked about', () => {
  const splits: [string, string][] = [
    ['dim:vessel', 'Vessel'],
    ['account', 'Account'],
    ['type', 'Account type'],
    ['period', 'Period'],
  ];
  const typed = (words: string) =>
    understood(words, clauses, dimensions, accounts, (t) => t, splits).map((r) => r.split);
  expect(typed('by vess, account across per')).toEqual([{ by: ['dim:vessel', 'account'], across: 'period' }]);
  expect(typed('by vessel then acc')).toEqual([{ by: ['dim:vessel', 'account'] }, { by: ['dim:vessel', 'type'] }]);
  expect(typed('across period')).toEqual([{ across: 'period' }]);
  expect(typed('by vessel across vessel')).toEqual([]);
  expect(understood('by vessel', clauses, dimensions, accounts, (t) => t)[0]?.kind).toBe('descriptions with');
});
