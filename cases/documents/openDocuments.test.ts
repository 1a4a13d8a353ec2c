import { afterAll, beforeAll, expect, test } from 'vitest';
import { newProposedSchema } from '@/contracts/bodies/all';
import { openDocumentsShape } from '@/contracts/questions';
import { readQuery } from '@/contracts/scope';
import { demoInstallation, demoPerson, type Fresh } from '@/ops/fresh';
import { propose } from '../proposals/propose';
import { setAgeBands } from './ageBands';
import { openDocuments } from './openDocuments';
import { readAttachment, readDocument } from './readDocument';

let fresh: Fresh;
beforeAll(async () => {
  fresh = await demoInstallation();
});
afterAll(() => fresh?.close());

const ask = (query: string) =>
  openDocuments(fresh.ctx, fresh.owner, readQuery(openDocumentsShape, new URLSearchParams(`entity=KSF&${query}`)));

test('open documents add up to their control accounts at any day, by age too; what is no document is the difference', async () => {
  for (const [accounts, to] of [
    ['1310', '2027.06'],
    ['1310', '2025-11-13'],
    ['2110', '2027.06'],
    ['2111', '2026-12-31'],
    ['2110, 2111', '2027.05'],
  ]) {
    const found = await ask(`accounts=${accounts}&to=${to}`);
    expect({ accounts, to, ...found.tie }).toEqual({ accounts, to, ok: true, offBy: '0.00' });
    expect(found.total.open).toBe(found.ledger);
    const cents = (text: string): bigint => BigInt(text.replace('.', ''));
    expect(found.bands.reduce((sum, b) => sum + cents(b.open), 0n)).toBe(cents(found.total.open));
    expect(found.rows.reduce((sum, r) => sum + cents(r.open), 0n)).toBe(cents(found.total.open));
    expect(found.rows.every((r) => r.open !== '0.00')).toBe(true);
  }
  // Kroner owed to the yard are revalued each month, and of that there is no document.
  expect(await ask('accounts=2122&to=2027.06')).toMatchObject({ tie: { ok: false } });
  const one = await ask('accounts=1310&to=2027.06&counterparty=C-103');
  expect(new Set(one.rows.map((r) => r.counterparty))).toEqual(new Set(['C-103']));
  expect(one.tie.ok).toBe(true);
  // Story 11: the credit note has nothing to be set against.
  expect(one.rows.find((r) => r.number === 'FC-00019')).toMatchObject({ type: 'credit note', open: '-2880.00' });
  await expect(ask('accounts=1310&dim.vessel=TERN')).rejects.toMatchObject({ errors: [{ path: 'dim.vessel' }] });
  expect((await ask('accounts=4210')).rows).toEqual([]);
});

test('documents are aged by the bands that an owner says, where nobody asks for others', async () => {
  const priya = await demoPerson(fresh, 'priya');
  await expect(setAgeBands(fresh.ctx, priya, { edges: [10] })).rejects.toMatchObject({ status: 403 });
  await setAgeBands(fresh.ctx, fresh.owner, { edges: [90, 45, 45] });
  const bands = async (more: string) => (await ask(`accounts=1310&to=2027.06${more}`)).bands.map((b) => b.name);
  expect(await bands('')).toEqual(['not due', '1–45 days', '46–90 days', '91 days and more']);
  expect(await bands('&edges=7')).toEqual(['not due', '1–7 days', '8 days and more']);
});

test('what is owed to us and what we owe stand apart, each account held against its own balance', async () => {
  const found = await ask('to=2027.06');
  expect(found.accounts.map((a) => [a.account, a.owed, a.tie.ok])).toEqual([
    ['1310', 'to us', true],
    ['2110', 'by us', true],
    ['2111', 'by us', true],
    ['2122', 'by us', false],
  ]);
  const cents = (text: string): bigint => BigInt(text.replace('.', ''));
  const [debtors, ...creditors] = found.accounts.map((a) => cents(a.open));
  expect(cents(found.total.open)).toBe(creditors.reduce((left, owed) => left - owed, debtors as bigint));
  for (const account of found.accounts) {
    const alone = await ask(`accounts=${account.account}&to=2027.06`);
    expect([alone.bands.map((b) => b.open), alone.total.open, alone.ledger]).toEqual([
      account.bands,
      account.open,
      account.ledger,
    ]);
  }
  expect(found.tie.offBy).toBe(found.accounts[3]?.tie.offBy);
  // Each party by age, with edges of one's own: together they are the account, band by band.
  const byParty = await ask('to=2027.06&edges=10,45');
  expect(byParty.bands.map((b) => b.name)).toHaveLength(4);
  for (const account of byParty.accounts) {
    const own = byParty.parties.filter((p) => p.account === account.account);
    expect(account.bands.map((_, i) => own.reduce((sum, p) => sum + cents(p.bands[i] as string), 0n))).toEqual(
      account.bands.map(cents),
    );
    expect(own.map((p) => Number(p.open))).toEqual(own.map((p) => Number(p.open)).sort((a, b) => b - a));
  }
  expect(byParty.parties.filter((p) => p.account === '1310').length).toBeGreaterThan(3);
});

test('story 1: both copies of the stage invoice have the very same scan, and only one of them has an order', async () => {
  const [first, copy] = [
    await readDocument(fresh.ctx, fresh.owner, 'NS-20631', {}),
    await readDocument(fresh.ctx, fresh.owner, 'NS-2063I', { entity: 'KSF' }),
  ];
  expect(first.settles.map((s) => s.document)).toEqual(['ORDER-DD-MAR-26']);
  expect(copy.settles).toEqual([]);
  expect(first.attachments[0]?.alsoOn).toEqual(['NS-2063I']);
  expect(copy.attachments[0]?.digest).toBe(first.attachments[0]?.digest);
  const { mediaType } = await readAttachment(fresh.ctx, fresh.owner, first.attachments[0]?.digest as string);
  expect(mediaType).toBe('application/pdf');
  const order = await readDocument(fresh.ctx, fresh.owner, 'ORDER-DD-MAR-26', {});
  expect(order.events.map((e) => [e.document, e.open]).at(-1)).toEqual(['NS-20631', '0.00']);
  // A payment of many invoices does not lead from one of them to the others.
  const paid = (await ask('accounts=2110&to=2025-03-31&open=all')).rows.find(
    (r) => r.type === 'invoice' && r.open === '0.00',
  );
  const chain = (await readDocument(fresh.ctx, fresh.owner, paid?.number as string, {})).chain.documents;
  expect(chain.filter((d) => d.type === 'invoice').map((d) => d.number)).toEqual([paid?.number]);
});

test('a payment that was applied to the wrong document is proposed for the right one, and both are shown as they would be', async () => {
  const before = await ask('accounts=1310&to=2027.06');
  const [from, to] = before.rows.filter((r) => r.type === 'invoice');
  if (!from || !to) throw new Error('two open invoices are wanted');
  await propose(
    fresh.ctx,
    fresh.owner,
    newProposedSchema.parse({
      ...{ entity: 'KSF', date: '2026-09-30', kind: 'factual', reason: 'the receipt names the other invoice' },
      lines: [
        { account: '1310', amount: '10.00', document: from.number },
        { account: '1310', amount: '-10.00', document: to.number },
      ],
    }),
  );
  const after = await ask('accounts=1310&to=2027.06&basis=with-proposed');
  const open = (number: string): number => Number(after.rows.find((r) => r.number === number)?.open);
  expect(open(from.number)).toBeCloseTo(Number(from.open) + 10, 2);
  expect(open(to.number)).toBeCloseTo(Number(to.open) - 10, 2);
  expect(after.rows.filter((r) => r.proposed).map((r) => r.proposed)).toEqual(
    expect.arrayContaining(['10.00', '-10.00']),
  );
  expect(after.tie).toEqual({ ok: true, offBy: '0.00' });
  expect(await ask('accounts=1310&to=2027.06')).toEqual(before);
});
