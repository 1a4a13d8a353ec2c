import { expect, test } from 'vitest';
import type { LineRow } from '@/contracts/answers/lines';
import type { SplitSheet, TrialBalance } from '@/contracts/answers/sheets';
import type { Statement } from '@/contracts/answers/statements';
import { ofWholeBooks, readScreen, type Step, screenPath, traced } from '../address/address';
import {
  documentStep,
  entryStep,
  incomeStatementStep,
  positionStep,
  splitSheet,
  splitStep,
  statementOf,
  statementParams,
  statementStep,
  trialBalanceParams,
  trialBalanceStep,
  yearStartIn,
} from './steps';

const head = {
  sentence: '',
  parts: [],
  address: 'entity=KSF&from=2027.04&to=2027.06',
  currency: 'GBP',
  translated: false,
  load: 1,
};
const balanceRow = (more: object = {}) =>
  ({ account: '6310', name: 'Repairs', heading: false, depth: 0, ...more }) as unknown as TrialBalance['rows'][number];
const balanceSheet = (more: object = {}) => ({ ...head, rows: [], ...more }) as unknown as TrialBalance;

test('the address of a screen says what it asks, and nothing of how it looks', () => {
  const asked = (query: string) =>
    trialBalanceParams(readScreen('trial-balance', new URLSearchParams(query))).toString();
  expect(asked('entity=KSF&sides=two&labels=name')).toBe('entity=KSF&tree=yes&zero=hide&yearToDate=yes');
  expect(asked('entity=KSF&tree=no&scheme=standard')).not.toContain('scheme');
  expect(asked('entity=KSF&columns=ytd,last-year&retained=parts&lang=nb&compare=movement')).toContain(
    'retained=parts&column=ytd&column=last-year&lang=nb&compare=movement',
  );
  const statement = statementParams(
    readScreen('statements', new URLSearchParams('entity=KSF&open=fuel,crew&across=period&amounts=thousands')),
    0,
  );
  expect([statement.getAll('open'), statement.get('across'), statement.has('amounts')]).toEqual([
    ['fuel', 'crew'],
    'period',
    false,
  ]);
});

test('an account traces to its lines over the window of the column that it is traced from', () => {
  expect(trialBalanceStep(balanceRow(), 'closing', balanceSheet())).toMatchObject({
    view: 'lines',
    label: '6310 Repairs',
    put: { accounts: ['6310'] },
  });
  // The year so far is from its first period.
  expect(trialBalanceStep(balanceRow(), 'yearToDate', balanceSheet()).put).toEqual({
    accounts: ['6310'],
    from: ['2027.01'],
    to: ['2027.06'],
  });
  const compared = { columns: [{ key: 'year-before', scope: { from: '2026.04', to: '2026.06' } }] };
  expect(trialBalanceStep(balanceRow(), 'year-before', balanceSheet(compared)).put).toMatchObject({
    from: ['2026.04'],
  });
  expect(
    trialBalanceStep(balanceRow({ heading: true, selection: '6310, 6320' }), 'debit', balanceSheet()),
  ).toMatchObject({
    label: 'Repairs',
    put: { accounts: ['6310, 6320'] },
  });
});

test('books in other currencies are traced through each company in its own (method.md §7)', () => {
  const of = (address: string, row = balanceRow()) =>
    trialBalanceStep(row, 'closing', balanceSheet({ translated: true, address }));
  expect(of('entity=KSF&entity=NHS')).toMatchObject({ view: 'split', by: 'entity', put: { in: ['GBP'] } });
  // One company and one account: its lines, with what they are worth beside.
  expect(of('entity=NHS')).toMatchObject({ view: 'lines', put: { accounts: ['6310'], in: ['GBP'] } });
  expect(of('entity=NHS', balanceRow({ heading: true }))).toMatchObject({ view: 'split', by: 'account' });
  // The remainder of a translation has no lines; all accounts of the company explain it.
  expect(of('entity=NHS', balanceRow({ account: '~translation' }))).toMatchObject({
    view: 'split',
    by: 'account',
    put: { accounts: [''], in: ['GBP'] },
  });
  const other = trialBalanceStep(balanceRow(), 'in:NOK', balanceSheet({ columns: [] }));
  expect(other).toMatchObject({ view: 'lines', put: { in: ['NOK'] } });
});

const statement = (kind: string, columns: object[] = []) =>
  ({
    ...head,
    kind,
    columns: [{ key: 'window', label: 'This window', scope: {} }, ...columns],
  }) as unknown as Statement;
const row = (more: object) =>
  ({
    key: 'cash',
    label: 'Cash',
    kind: 'accounts',
    account: null,
    refine: { accounts: '15*' },
    ...more,
  }) as unknown as Statement['rows'][number];

test('a row of a statement opens to its accounts, an account to its lines, what is calculated to nothing', () => {
  expect(statementStep(row({}), 'window', statement('balance'))).toMatchObject({
    view: 'split',
    by: 'account',
    compare: 'closing',
  });
  const account = row({ kind: 'account', account: '1510', label: 'Bank', refine: { accounts: '1510' } });
  expect(statementStep(account, 'window', statement('income'))).toMatchObject({ view: 'lines', label: '1510 Bank' });
  expect(statementStep(row({ key: 'intercompany' }), 'window', statement('income'))).toMatchObject({ by: 'entity' });
  expect(statementStep(row({ refine: { opposite: ['4110'] } }), 'window', statement('cashflow'))).toMatchObject({
    view: 'lines',
  });
  const planned = statement('income', [{ key: 'budget:P', label: 'Budget P', scope: {} }]);
  expect([
    statementStep(row({}), 'budget:P', planned),
    statementStep(row({ refine: null }), 'window', planned),
  ]).toEqual([null, null]);
  const position = statement('position', [
    { key: 'current', label: 'Current', scope: { accounts: 'type equity' }, measure: 'closing' },
    { key: 'committed', label: 'Committed', scope: {} },
  ]);
  expect(statementStep(row({ measure: 'movement' }), 'current', position)).toMatchObject({
    label: 'Cash, current',
    measure: 'closing',
  });
  expect(statementStep(row({}), 'committed', position)).toMatchObject({ view: 'orders', by: 'now' });
  expect(statementStep(row({}), 'available', position)).toBeNull();
});

test('from the result to the income statement of the year, from a line to a position and its document, as steps', () => {
  const address = new URLSearchParams('entity=KSF&dim.costcentre=OPS&from=2027.04&to=2027.06');
  const books = { entities: [{ code: 'KSF', calendar: { kind: 'monthly', start: '04', adjustmentPeriods: 1 } }] };
  const starts = ['2027.06', '2026-09-30', null].map((to) => yearStartIn(books as never, 'KSF', to));
  expect(starts).toEqual(['2027.01', '2026-04-01', undefined]);
  const screen = readScreen('statements', new URLSearchParams(`${address}&statement=balance`));
  const down = traced(screen, {
    ...(incomeStatementStep(address, starts[0]) as Step),
    row: 'result',
    column: 'window',
  });
  // It is the same scope over the year so far, and the address says all of it.
  const read = readScreen('statements', new URLSearchParams(screenPath(down).split('?')[1]));
  expect(read).toEqual(down);
  expect(statementParams(read, 1).toString()).toBe('entity=KSF&dim.costcentre=OPS&from=2027.01&to=2027.06');
  expect([statementOf(read, 0), statementOf(read, 1)]).toEqual(['balance', 'income']);
  const line = { entity: 'KSF', period: '2027.03' };
  const dim = { dimension: 'fund', dimensionName: 'Fund', code: 'F1', name: 'Fund one' };
  const fund = ofWholeBooks(read, { ...positionStep(line, dim), row: 'x', column: 'y' });
  // A position is of whole books: the cost centre does not hold there, and is there again above.
  const there = traced(read, fund);
  const again = readScreen('statements', new URLSearchParams(screenPath(there).split('?')[1]));
  expect(statementParams(again, 2).toString()).toBe('entity=KSF&from=2027.01&to=2027.03&by=dim%3Afund');
  expect(documentStep('KSF', 'INV-7')).toMatchObject({ view: 'document', entry: 'INV-7' });
});

test('a split that was typed takes the place of what was said, and keeps what was not', () => {
  const bare = readScreen('trial-balance', new URLSearchParams('entity=KSF'));
  const first = splitSheet(bare, { by: ['dim:vessel'] });
  expect(first.steps).toMatchObject([{ view: 'split', by: 'dim:vessel', label: 'All of it' }]);
  const across = splitSheet(first, { across: 'period' });
  expect(across.steps).toMatchObject([{ by: 'dim:vessel', across: 'period' }]);
  // What is on the columns is not among the rows as well.
  expect(splitSheet(across, { by: ['period', 'account'] }).steps).toMatchObject([{ by: 'account', across: 'period' }]);
  expect(splitSheet(across, { by: ['period'] }).steps).toMatchObject([{ by: 'account', across: 'period' }]);
});

test('a line leads to its entry', () => {
  const step = entryStep({ id: '9', entry: 'PI-1', entryId: 'e9', description: 'Fuel' } as LineRow);
  expect(step).toMatchObject({ view: 'entry', entry: 'e9', label: 'PI-1 Fuel', row: '9' });
});

test('a step says which measure was traced where its column does not: beside others, and on statements', () => {
  const beside = balanceSheet({ columns: [{ key: 'window', scope: {} }] });
  expect(trialBalanceStep(balanceRow(), 'window', beside, 'movement').measure).toBe('movement');
  expect(trialBalanceStep(balanceRow(), 'window', beside).measure).toBe('closing');
  expect(trialBalanceStep(balanceRow(), 'debit', balanceSheet()).measure).toBeUndefined();
  const split = { ...head, compared: [{ key: 'window', label: 'This window', scope: {} }] } as unknown as SplitSheet;
  const vessel = {
    member: 'MAREN',
    name: 'Maren',
    refine: { 'dim.vessel': 'MAREN' },
  } as unknown as SplitSheet['rows'][number];
  const cell = { put: {}, oneAccount: false };
  expect(splitStep(vessel, 'window', split, { ...cell, comparing: 'closing' }).measure).toBe('closing');
  expect(splitStep(vessel, 'closing', { ...split, compared: undefined } as SplitSheet, cell).measure).toBeUndefined();
  const cash = row({ refine: { opposite: ['4110'] }, measure: 'allotted' });
  expect(statementStep(cash, 'window', statement('cashflow'))?.measure).toBe('allotted');
  const opening = { key: 'opening', label: 'Opening', scope: { accounts: 'type equity' }, measure: 'opening' };
  expect(statementStep(row({ measure: 'movement' }), 'opening', statement('position', [opening]))?.measure).toBe(
    'opening',
  );
});
