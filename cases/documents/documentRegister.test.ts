import { afterAll, beforeAll, expect, test } from 'vitest';
import { registerShape } from '@/contracts/questions';
import { readQuery } from '@/contracts/scope';
import { type Fresh, freshInstallation, loadText } from '@/ops/fresh';
import { addEntity } from '../charts/entities';
import { readRegister } from './documentRegister';
import { partyStory } from './partyStory';
import { readDocument } from './readDocument';

// A yard's contract with change orders, billed and booked in part; an invoice that nobody booked, and one that nobody sent.

let fresh: Fresh;
beforeAll(async () => {
  fresh = await freshInstallation();
  await addEntity(fresh.ctx, fresh.owner, {
    ...{ code: 'ONE', name: 'One', currency: 'GBP', yearEnd: 'derived', retainedEarnings: '3120' },
    calendar: { kind: 'monthly', start: '01', adjustmentPeriods: 0 },
  });
  const chart = 'code,name,type\n1520,Bank,asset\n2110,Suppliers,liability\n3120,Retained,equity\n6310,Repairs,expense';
  await loadText(fresh, chart, { kind: 'accounts', entity: 'ONE' });
  const documents = [
    'number,type,date,amount,counterparty,counterparty_name,description,source,applied,applied_date',
    'C-1,contract,2026-01-05,100000.00,Y,The Yard,New linkspan,,,',
    'CO-1,change order,2026-02-01,15000.00,Y,The Yard,Deeper piles,C-1,0.00,2026-02-01',
    'I-1,invoice,2026-02-10,60000.00,Y,The Yard,Stage 1,C-1,60000.00,2026-02-10',
    'I-2,invoice,2026-03-10,55000.00,Y,The Yard,Stage 2 with Sørvik piles,C-1,55000.00,2026-03-10',
    'R-1,payment,2026-04-01,45000.00,,,Run of several,I-1,40000.00,2026-04-01',
    'G-1,goods receipt,2026-03-09,55000.00,Y,The Yard,Piles came,,,',
  ];
  await loadText(fresh, documents.join('\n'), { kind: 'documents', entity: 'ONE' });
  const lines = [
    'entry,line,date,account,debit,credit,description,document,tax_code,tax_amount,counterparty',
    'E-1,1,2026-02-10,6310,50000.00,,Stage,I-1,IN20,10000.00,Y',
    'E-1,2,2026-02-10,6310,10000.00,,Stage,I-1,,,Y',
    'E-1,3,2026-02-10,2110,,60000.00,Stage,I-1,,,Y',
    'E-2,1,2026-03-20,6310,70.00,,Bolts,I-9,,,Y',
    'E-2,2,2026-03-20,2110,,70.00,Bolts,I-9,,,Y',
  ];
  await loadText(fresh, lines.join('\n'), { kind: 'lines', entity: 'ONE' });
});
afterAll(() => fresh?.close());

const register = (more: string) =>
  readRegister(fresh.ctx, fresh.owner, readQuery(registerShape, new URLSearchParams(`entity=ONE${more}`)));

test('every document is listed with how far it is; a contract is worth what its change orders make of it', async () => {
  const { rows, kinds, count } = await register('');
  expect(count).toBe(6);
  expect(kinds.map((k) => `${k.type} ${k.count}`)).toEqual([
    ...['change order 1', 'contract 1', 'goods receipt 1', 'invoice 2', 'payment 1'],
  ]);
  expect(rows.map((r) => [r.number, r.value, r.open, r.state])).toEqual([
    ['R-1', null, '5000.00', 'partly applied'],
    ['I-2', null, '55000.00', 'not settled'],
    ['G-1', null, '55000.00', 'not billed'],
    ['I-1', null, '20000.00', 'partly settled'],
    ['CO-1', null, '15000.00', ''],
    ['C-1', '115000.00', '0.00', 'billed in full'],
  ]);
  expect((await register('&words=sorvik')).rows.map((r) => r.number)).toEqual(['I-2']);
  expect((await register('&type=invoice&to=2026-02-28')).rows.map((r) => r.number)).toEqual(['I-1']);
  const second = await register('&limit=2&after=3');
  expect([second.rows.map((r) => r.number), second.next]).toEqual([['I-1', 'CO-1'], 5]);
});

test('a document that was never booked, and one that lines name and nobody sent, are found', async () => {
  expect((await register('&only=no-entry')).rows.map((r) => r.number)).toEqual(['R-1', 'I-2']);
  const missing = await register('&only=not-delivered');
  expect(missing.rows.map((r) => [r.number, r.lines, r.amount, r.counterparty])).toEqual([['I-9', 2, '70.00', 'Y']]);
});

test('the contract itself tells what changed it and what is left after each; an invoice its tax', async () => {
  const contract = await readDocument(fresh.ctx, fresh.owner, 'C-1', {});
  expect([contract.value, contract.open, contract.state, contract.promising]).toEqual([
    ...['115000.00', '0.00', 'billed in full', true],
  ]);
  expect(contract.events.map((e) => [e.document, e.applied, e.open, e.changes ?? false])).toEqual([
    ['C-1', '0.00', '100000.00', false],
    ['CO-1', '-15000.00', '115000.00', true],
    ['I-1', '60000.00', '55000.00', false],
    ['I-2', '55000.00', '0.00', false],
  ]);
  const invoice = await readDocument(fresh.ctx, fresh.owner, 'I-1', {});
  expect(invoice.booked).toBe(3);
  expect(invoice.taxes).toEqual([{ code: 'IN20', base: '50000.00', tax: '10000.00' }]);
});

test('the story of a supplier: what it billed, in order, held against what the ledger says is owed to it', async () => {
  const story = await partyStory(fresh.ctx, fresh.owner, 'Y', { entity: 'ONE' });
  expect(story.rows.map((r) => [r.number, r.counts, r.balance])).toEqual([
    ['C-1', false, '0.00'],
    ['CO-1', false, '0.00'],
    ['I-1', true, '60000.00'],
    ['G-1', false, '60000.00'],
    ['I-2', true, '115000.00'],
    // The part of a payment of several, which names nobody.
    ['R-1', true, '75000.00'],
  ]);
  // The invoice that nobody booked is not in the ledger, and a line is that no document bears.
  expect([story.owed, story.accounts, story.ledger, story.tie]).toEqual([
    ...['by us', ['2110'], '60070.00', { ok: false, offBy: '14930.00' }],
  ]);
  await expect(partyStory(fresh.ctx, fresh.owner, 'NOBODY', { entity: 'ONE' })).rejects.toThrow(/NOBODY/);
});

test('who sees a part of the books sees no register', async () => {
  const reader = { ...fresh.owner, role: 'reader' as const, accounts: '6310' };
  await expect(
    readRegister(fresh.ctx, reader, readQuery(registerShape, new URLSearchParams('entity=ONE'))),
  ).rejects.toThrow(/whole books/);
});
