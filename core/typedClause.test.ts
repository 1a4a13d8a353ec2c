import { expect, test } from 'vitest';
import { calendar } from './calendar';
import { isGuess, understood } from './typedClause';

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
    ['62', null, 'expense', false, [], null, null],
    ['6210', '62', 'expense', true, ['Vessel running'], 'Running', 'operating'],
    ['6310', null, 'expense', true, ['Vessel running'], 'Running', 'operating'],
    ['4110', null, 'income', true, [], null, 'operating'],
    ['1510', null, 'asset', true, [], 'Current', 'cash'],
    ['2410', null, 'liability', true, [], 'Long term', 'financing'],
  ] as const
).map(([code, parent, type, posting, groups, classification, flow]) => ({
  ...{ code, name: code, parent, type, posting, groups, classification, flow },
}));
const parties = [
  { code: 'C-106', name: 'Harrow Haulage' },
  { code: 'S-404', name: 'Sound Hydraulics' },
];
const everything = {
  clauses,
  plain,
  chart,
  parties,
  dimensions: [
    ...dimensions,
    {
      code: 'vessel',
      name: 'Vessel',
      members: [
        { code: 'MAREN', name: 'Maren' },
        { code: 'TERN', name: 'Tern' },
      ],
    },
  ],
  accounts: [...accounts, { account: '1510', name: 'Card receipts in transit' }],
  companies: [
    { code: 'KSF', name: 'Kestrel Sound Ferries Ltd', currency: 'GBP' },
    { code: 'NHS', name: 'Nordholm Slip AS', currency: 'NOK' },
  ],
  captions: [
    { label: 'Finance', accounts: '8*' },
    { label: 'Upkeep of vessels', accounts: '63' },
  ],
  time: { calendar: calendar({ kind: 'monthly', start: '04', adjustmentPeriods: 1 }), latest: 2706 },
  sayable: [
    { name: 'counterparty', words: ['counterparty', 'party'], isNumber: false },
    { name: 'journal', words: ['journal'], isNumber: false },
    { name: 'postedBy', words: ['posted by', 'user'], isNumber: false },
    { name: 'document', words: ['document number', 'document'], isNumber: false },
    { name: 'dueDate', words: ['due date', 'due'], isNumber: false },
    { name: 'taxCode', words: ['tax code'], isNumber: false },
    { name: 'quantity', words: ['quantity'], isNumber: true },
    { name: 'currencyAmount', words: ['transaction amount'], isNumber: true },
    { name: 'reconciled', words: ['reconciled'], isNumber: false },
  ],
  splits: [
    ['dim:vessel', 'Vessel'],
    ['account', 'Account'],
    ['period', 'Period'],
    ['counterparty', 'Counterparty'],
  ] as [string, string][],
};

const window = (from: string, to = from, period: string[] = []) => ({ window: [], from: [from], to: [to], period });
const named = (name: string) => ({ window: [name], from: [], to: [], period: [] });
/** What the first reading of words asks for; a guess asks for a value as it was typed, and is counted before it is taken. */
const MEANT: [words: string, means: Record<string, string[]> | { by?: string[]; across?: string }, guess?: 'guess'][] =
  [
    // accounts: codes, names, ranges, patterns, types, groups, attributes, rows of statements
    ['6410', { accounts: ['6410'] }],
    ['harbour dues', { accounts: ['6410'] }],
    ['DUES', { accounts: ['6410'] }],
    ['passenger', { accounts: ['4110'] }],
    ['62*', { accounts: ['62*'] }],
    ['6?10', { accounts: ['6?10'] }],
    ['6210 to 6399', { accounts: ['6210 to 6399'] }],
    ['62 to 63', { accounts: ['62 to 63'] }],
    ['accounts 6210 to 6399', { accounts: ['6210 to 6399'] }],
    ['6210, 6310', { accounts: ['6210, 6310'] }],
    ['6210; 6310', { accounts: ['6210, 6310'] }],
    ['62, except 6210', { text: ['62, except 6210'] }, 'guess'],
    ['all except 6310', { accounts: ['all accounts, except 6310'] }],
    ['type expense, except 6310', { accounts: ['type expense, except 6310'] }],
    ['type expense', { accounts: ['type expense'] }],
    ['only type expense', { accounts: ['type expense'] }],
    ['Type Expenses', { accounts: ['type expense'] }],
    ['expenses', { accounts: ['type expense'] }],
    ['income', { accounts: ['type income'] }],
    ['assets', { accounts: ['type asset'] }],
    ['liabilities', { accounts: ['type liability'] }],
    ['income statement', { accounts: ['type income, type expense'] }],
    ['profit and loss', { accounts: ['type income, type expense'] }],
    ['balance sheet', { accounts: ['type asset, type liability, type equity'] }],
    ['group Vessel running', { accounts: ['group Vessel running'] }],
    ['group vessel RUNNING', { accounts: ['group vessel RUNNING'] }],
    ['group Nothing', { text: ['group Nothing'] }, 'guess'],
    ['classification Current', { accounts: ['classification Current'] }],
    ['classification running', { accounts: ['classification running'] }],
    ['cash flow financing', { accounts: ['cash flow financing'] }],
    ['flow cash', { accounts: ['cash flow cash'] }],
    ['finance', { accounts: ['8*'] }],
    ['Upkeep of vessels', { accounts: ['63'] }],
    ['upkeep', { accounts: ['63'] }],
    ['6399 to 6300', { text: ['6399 to 6300'] }, 'guess'],
    ['9*', { text: ['9*'] }, 'guess'],
    // members of dimensions
    ['maren', { 'dim.vessel': ['MAREN'] }],
    ['TERN', { 'dim.vessel': ['TERN'] }],
    ['harbour crew', { 'dim.costcentre': ['HARB'] }],
    ['crew', { 'dim.costcentre': ['HARB'] }],
    // parties and companies
    ['harrow haulage', { counterparty: ['C-106'] }],
    ['haulage', { counterparty: ['C-106'] }],
    ['c-106', { counterparty: ['C-106'] }],
    ['hydraulics', { counterparty: ['S-404'] }],
    ['nordholm', { entity: ['NHS'] }],
    ['ksf', { entity: ['KSF'] }],
    // windows: periods, months, quarters, years, days, by name
    ['July', window('2027.04')],
    ['july 2026', window('2027.04')],
    ['Jul 2026', window('2027.04')],
    ['July to September 2026', window('2027.04', '2027.06')],
    ['2027.02', window('2027.02')],
    ['period 2027.02', window('2027.02')],
    ['2027.02 to 2027.05', window('2027.02', '2027.05')],
    ['2027.02 and 2027.05', window('2027.02', '2027.05', ['2027.02', '2027.05'])],
    ['2027.02, 2027.05', window('2027.02', '2027.05', ['2027.02', '2027.05'])],
    ['Q2', window('2027.04', '2027.06')],
    ['Q2 last year', window('2026.04', '2026.06')],
    ['Q1 2027', window('2027.01', '2027.03')],
    ['last year', window('2026.01', '2026.13')],
    ['this year', window('2027.01', '2027.13')],
    ['fiscal 2026', window('2026.01', '2026.13')],
    ['2026-07-03', window('2026-07-03')],
    ['3 Jul 2026', window('2026-07-03')],
    ['2026-07-03 to 2026-07-10', window('2026-07-03', '2026-07-10')],
    ['3 Jul 2026 to 10 Jul 2026', window('2026-07-03', '2026-07-10')],
    ['year to date', named('year-to-date')],
    ['YTD', named('year-to-date')],
    ['previous month', named('previous-month')],
    ['last year end', named('last-year-end')],
    ['last period', named('last-period')],
    ['trailing 12', named('trailing-12')],
    ['last twelve months', named('trailing-12')],
    ['everything', named('everything')],
    // amounts
    ['over 5,000', { min: ['5000'] }],
    ['more than 5,000', { min: ['5000'] }],
    ['>= 5,000', { min: ['5000'] }],
    ['amounts over 5,000', { min: ['5000'] }],
    ['up to 20', { max: ['20'] }],
    ['less than 20', { max: ['20'] }],
    ['between 10 and 1,000.50', { min: ['10'], max: ['1000.50'] }],
    ['165,476.17', { min: ['165476.17'], max: ['165476.17'] }],
    ['exactly 9,000', { min: ['9000'], max: ['9000'] }],
    // which lines count, and of what kind they are
    ['only unposted', { status: ['unposted'] }],
    ['unposted lines', { status: ['unposted'] }],
    ['posted and unposted', { status: ['all'] }],
    ['posted', { status: ['posted'] }],
    ['without adjustments', { adjustments: ['without'] }],
    ['with adjustment periods', { adjustments: ['with'] }],
    ['reconciled', { reconciled: ['~not:~none'] }],
    ['reconciled no', { reconciled: ['~none'] }],
    ['ticked', { ticked: ['yes'] }],
    ['not yet ticked', { ticked: ['no'] }],
    ['unticked lines', { ticked: ['no'] }],
    ['not reconciled', { reconciled: ['~none'] }],
    ['unreconciled lines', { reconciled: ['~none'] }],
    ['reconciled BS-2026-08', { reconciled: ['BS-2026-08'] }, 'guess'],
    ['without revaluation', { kind: ['~not:revaluation'] }],
    ['revaluations only', { kind: ['revaluation'] }],
    ['reversals', { kind: ['reversal'] }],
    ['no closing entries', { kind: ['~not:closing'] }],
    // columns by their names
    ['journal GL', { journal: ['GL'] }, 'guess'],
    ['not journal GL', { journal: ['~not:GL'] }, 'guess'],
    ['posted by mhald', { postedBy: ['mhald'] }, 'guess'],
    ['document begins INV-7', { document: ['INV-7*'] }, 'guess'],
    ['document does not contain 77', { document: ['~not:*77*'] }, 'guess'],
    ['due before 2026-07-31', { dueDate: ['..2026-07-31'] }, 'guess'],
    ['tax code none', { taxCode: ['~none'] }, 'guess'],
    ['quantity over 1,000', { quantity: ['1000..'] }, 'guess'],
    ['transaction amount between 10 and 20', { currencyAmount: ['10..20'] }, 'guess'],
    ['party Harrow', { counterparty: ['Harrow'] }, 'guess'],
    // numbers by themselves, a currency, a load
    ['je-ksf-00436', { entry: ['je-ksf-00436', 'JE-KSF-00436'] }, 'guess'],
    ['NS-20631', { entry: ['NS-20631'] }, 'guess'],
    ['in NOK', { in: ['NOK'] }],
    ['as of load 5', { load: ['5'] }],
    // how the sheet is broken down
    ['by vessel', { by: ['dim:vessel'] }],
    ['by vessel, account', { by: ['dim:vessel', 'account'] }],
    ['by vessel across period', { by: ['dim:vessel'], across: 'period' }],
    ['across period', { across: 'period' }],
    // what is none of these is words of a description, by that name
    ['dry dock', { text: ['dry dock'] }, 'guess'],
    ['NS-*', { text: ['NS-*'] }, 'guess'],
    ['in XYZ', { text: ['in XYZ'] }, 'guess'],
  ];

test.each(MEANT)('“%s” means what people mean by it', (words, means, guess) => {
  const [first] = understood(words, everything);
  expect(first?.split ?? first?.put).toEqual(means);
  expect([isGuess(first), first?.key === 'text']).toEqual([guess !== undefined, 'text' in means]);
});

test('a hundred inputs and more are in the table, and text is always the last choice, by name', () => {
  expect(MEANT.length).toBeGreaterThanOrEqual(100);
  for (const [words] of MEANT) {
    const readings = understood(words, everything);
    if (readings.some((r) => r.split)) continue;
    expect(readings.at(-1)).toMatchObject({ key: 'text', kind: 'descriptions with' });
    expect(new Set(readings.map((r) => r.key)).size).toBe(readings.length);
  }
});

test('a number by itself is asked for as an entry, else as a document, else in descriptions', () => {
  const readings = understood('ne-12', everything);
  expect(readings.map((r) => [r.key, r.orNext ?? false])).toEqual([
    ['said:entry', true],
    ['said:document', true],
    ['text', false],
  ]);
});
