import { expect, test } from 'vitest';
import { understood } from './understood';

const clauses = [
  { name: 'journal', label: 'a journal' },
  { name: 'dim.costcentre', label: 'cost centre' },
];
const dimensions = [{ code: 'costcentre', name: 'Cost centre', members: [{ code: 'HARB', name: 'Harbour crew', parent: null }] }];
const accounts = [
  { account: '6410', name: 'Harbour dues' },
  { account: '4110', name: 'Passenger fares' },
];
const read = (words: string) => understood(words, clauses, dimensions, accounts, (text) => text.replaceAll(',', ''));
const said = (words: string) => read(words).map((r) => `${r.kind} ${r.name}`);

test('a word that fits several things is offered as each of them, and last of all as words of a description', () => {
  expect(said('har')).toEqual(['account 6410 Harbour dues', 'cost centre Harbour crew, HARB', 'descriptions with “har”']);
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

test('a crosstab is typed: each word is completed, one that fits several things is asked about', () => {
  const splits: [string, string][] = [
    ['dim:vessel', 'Vessel'],
    ['account', 'Account'],
    ['type', 'Account type'],
    ['period', 'Period'],
  ];
  const typed = (words: string) => understood(words, clauses, dimensions, accounts, (t) => t, splits).map((r) => r.split);
  expect(typed('by vess, account across per')).toEqual([{ by: ['dim:vessel', 'account'], across: 'period' }]);
  expect(typed('by vessel then acc')).toEqual([{ by: ['dim:vessel', 'account'] }, { by: ['dim:vessel', 'type'] }]);
  expect(typed('across period')).toEqual([{ across: 'period' }]);
  expect(typed('by vessel across vessel')).toEqual([]);
  expect(understood('by vessel', clauses, dimensions, accounts, (t) => t)[0]?.kind).toBe('descriptions with');
});
