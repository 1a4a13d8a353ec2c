import { expect, test } from 'vitest';
import { calendar } from '@/core/calendar';
import { isGuess, understood } from './understood';

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
const plain = (text: string): string => text.replaceAll(',', '');
const read = (words: string) => understood(words, { clauses, dimensions, accounts, plain });
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
  const put = (words: string) => understood(words, { clauses, dimensions, accounts, plain, sayable })[0]?.put;
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
    understood(words, { clauses, dimensions, accounts, plain, splits }).map((r) => r.split);
  expect(typed('by vess, account across per')).toEqual([{ by: ['dim:vessel', 'account'], across: 'period' }]);
  expect(typed('by vessel then acc')).toEqual([{ by: ['dim:vessel', 'account'] }, { by: ['dim:vessel', 'type'] }]);
  expect(typed('across period')).toEqual([{ across: 'period' }]);
  expect(typed('by vessel across vessel')).toEqual([]);
  expect(understood('by vessel', { clauses, dimensions, accounts, plain })[0]?.kind).toBe('descriptions with');
});

const chart = (
  [
    ['62', null, 'expense', false, []],
    ['6210', '62', 'expense', true, ['Vessel running']],
    ['6310', null, 'expense', true, ['Vessel running']],
    ['4110', null, 'income', true, []],
    ['1510', null, 'asset', true, []],
  ] as const
).map(([code, parent, type, posting, groups]) => ({ code, name: code, parent, type, posting, groups }));
const time = { calendar: calendar({ kind: 'monthly', start: '04', adjustmentPeriods: 1 }), latest: 2706 };
const parties = [
  { code: 'C-106', name: 'Harrow Haulage' },
  { code: 'S-404', name: 'Sound Hydraulics' },
];
const sayable = [{ name: 'counterparty', words: ['counterparty', 'party'], isNumber: false }];

test.each([
  ['62*', { accounts: ['62*'] }],
  ['6210 to 6399', { accounts: ['6210 to 6399'] }],
  ['type expense', { accounts: ['type expense'] }],
  ['expenses', { accounts: ['type expense'] }],
  ['liabilities', null],
  ['group Vessel running', { accounts: ['group Vessel running'] }],
  ['group Nothing', null],
  ['62, except 6210', null],
  ['all except 6310', { accounts: ['all accounts, except 6310'] }],
  ['income statement', { accounts: ['type income, type expense'] }],
  ['6399 to 6300', null],
  ['9*', null],
  ['July 2026', { window: [], from: ['2027.04'], to: ['2027.04'], period: [] }],
  ['2027.02 and 2027.05', { window: [], from: ['2027.02'], to: ['2027.05'], period: ['2027.02', '2027.05'] }],
  ['Q2 last year', { window: [], from: ['2026.04'], to: ['2026.06'], period: [] }],
  ['2026-07-03 to 2026-07-10', { window: [], from: ['2026-07-03'], to: ['2026-07-10'], period: [] }],
  ['only unposted', { status: ['unposted'] }],
  ['harrow haulage', { counterparty: ['C-106'] }],
  ['c-106', { counterparty: ['C-106'] }],
  ['hydraulics', { counterparty: ['S-404'] }],
  ['NS-*', null],
])('“%s” is understood, or left to the words of descriptions', (words, put) => {
  const [first] = understood(words, { clauses: [], dimensions, accounts, chart, time, parties, plain, sayable });
  expect(first?.put).toEqual(put ?? { text: [words] });
  expect(isGuess(first)).toBe(put === null);
});

test('a value that is typed after the name of its column is a guess until it is counted', () => {
  const [first] = understood('counterparty Harrow', { clauses: [], dimensions, accounts, parties, plain, sayable });
  expect([first?.put, isGuess(first)]).toEqual([{ counterparty: ['Harrow'] }, true]);
});
