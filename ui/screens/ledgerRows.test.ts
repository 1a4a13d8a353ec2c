import { expect, test } from 'vitest';
import type { LineRow } from '@/contracts/answers/lines';
import { ATTRIBUTES, LINE_NUMBERS } from '@/core/lineFields';
import { CLAUSES } from '../scope/clauses';
import { cellText } from '../sheet/cell';
import { ledgerColumns } from './ledgerColumns';
import { lineRow } from './ledgerRows';

const line: LineRow = {
  id: '17',
  entity: 'KSF',
  entry: 'PI-1',
  entryId: 'e17',
  line: 2,
  date: '2026-07-09',
  period: '2027.04',
  account: '6210',
  accountName: 'Fuel',
  debit: '120.00',
  credit: '0.00',
  amount: '120.00',
  running: null,
  description: 'Bunkers',
  entryDescription: 'Bunkers, July',
  journal: 'AP',
  document: 'INV-*',
  counterpartyName: 'Somebody',
  counterparty: 'OIL',
  postedBy: 'mhald',
  enteredAt: '2026-07-10 08:00:00+00',
  status: 'unposted',
  kind: 'adjustment',
  currency: 'NOK',
  currencyAmount: '-1500.00',
  quantity: '100',
  unit: 'l',
  unitPrice: '1.20',
  approvedBy: 'plund',
  reversalOf: 'PI-0',
  source: 'purchasing',
  load: 3,
  extra: { tax_code: 'T1', tax_amount: '-20.00', due_date: '2026-08-08', document_type: 'invoice' },
  outOfOrder: true,
  dims: [{ dimension: 'vessel', dimensionName: 'Vessel', code: 'MAREN', name: 'Maren' }],
  otherSide: [
    { account: '2110', name: 'Suppliers', amount: '-100.00', exact: true },
    { account: '2310', name: 'VAT', amount: '-20.00', exact: true },
  ],
  otherSideMore: 1,
};
const dimensions = [{ code: 'vessel', name: 'Vessel' }];

test('whatever a clause can ask of a line is a column of its ledger, and every column says what the line has', () => {
  const columns = ledgerColumns({ oneAccount: false }, dimensions);
  const keys = columns.map((c) => c.key);
  expect(new Set(keys).size).toBe(keys.length);
  // The unit stands beside the quantity, the currency beside its amount.
  for (const name of [...ATTRIBUTES, ...LINE_NUMBERS].filter((n) => n !== 'unit' && n !== 'currency')) {
    expect(keys).toContain(name);
    expect(CLAUSES[name]?.label).toEqual(expect.any(String));
  }
  const row = lineRow(line, { currency: 'GBP', parts: [] });
  const text = Object.fromEntries(keys.map((key) => [key, cellText(row.cells[key])]));
  expect(text).toMatchObject({
    date: '9 Jul 2026',
    entry: 'PI-1',
    account: '6210 Fuel',
    description: 'Bunkers not posted adjustment',
    dueDate: '8 Aug 2026',
    taxCode: 'T1',
    taxAmount: '(20.00)',
    quantity: '100 l',
    currencyAmount: '(1,500.00) NOK',
    'dim:vessel': 'Maren',
    other: '2110 Suppliers +2',
    debit: '120.00',
    credit: '–',
    balance: '',
    attachment: '',
  });
  expect(row.cells.entry).toMatchObject({ sign: 'out of order' });
  // Who sees a part of the books is not led to documents, which are of whole books.
  expect(row.links?.map((l) => l.name)).toContain(`Document ${line.document}`);
  const part = { text: 'cost centre Deck', control: 'dim.costcentre', granted: true };
  expect(lineRow(line, { currency: 'GBP', parts: [part] }).links?.map((l) => l.name)).not.toContain(
    `Document ${line.document}`,
  );
});

test('the account is left out of a ledger of one; tax is in sight where it is asked for', () => {
  const of = (oneAccount: boolean, taxed: boolean) => ledgerColumns({ oneAccount, taxed }, []);
  expect(of(true, false).map((c) => c.key)).not.toContain('account');
  const tax = (taxed: boolean) => of(true, taxed).find((c) => c.key === 'taxAmount')?.onRequest ?? false;
  expect([tax(false), tax(true)]).toEqual([true, false]);
});

test('a cell narrows the scope to lines that have the same, whatever its value is made of', () => {
  const { only } = lineRow(line, { currency: 'GBP', parts: [] });
  const narrowed = (column: string) => only?.(column);
  expect(narrowed('date')).toEqual({ day: ['2026-07-09'] });
  expect(narrowed('account')).toEqual({ accounts: ['6210'] });
  expect(narrowed('document')).toEqual({ document: ['~is:INV-*'] });
  expect(narrowed('attachment')).toEqual({ attachment: ['~none'] });
  expect(narrowed('taxAmount')).toEqual({ taxAmount: ['20.00'] });
  expect(narrowed('line')).toEqual({ line: ['2'] });
  expect(narrowed('debit')).toEqual({ min: ['120.00'], max: ['120.00'] });
  expect(narrowed('currencyAmount')).toEqual({ currency: ['NOK'], currencyAmount: ['1500.00'] });
  expect(narrowed('dim:vessel')).toEqual({ 'dim.vessel': ['MAREN'] });
  expect(narrowed('dim:project')).toEqual({ 'dim.project': ['~none'] });
  expect([narrowed('load'), narrowed('other')]).toEqual([null, null]);
});
