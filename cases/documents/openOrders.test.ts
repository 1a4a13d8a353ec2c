import { afterAll, beforeAll, expect, test } from 'vitest';
import { openOrdersShape, sheetShape, statementShape } from '@/contracts/questions';
import { readQuery } from '@/contracts/scope';
import { demoInstallation, demoPerson, type Fresh, loadText } from '@/ops/fresh';
import { readSheet } from '../sheets/readSheet';
import { readStatement } from '../statements/readStatement';
import { openOrders } from './openOrders';
import { readDocument } from './readDocument';

let fresh: Fresh;
beforeAll(async () => {
  fresh = await demoInstallation();
});
afterAll(() => fresh?.close());

const orders = (query: string) =>
  openOrders(fresh.ctx, fresh.owner, readQuery(openOrdersShape, new URLSearchParams(`entity=KSF&${query}`)));
const statement = (code: string, query: string) =>
  readStatement(fresh.ctx, fresh.owner, code, readQuery(statementShape, new URLSearchParams(`entity=KSF&${query}`)));
const pence = (text: string | null | undefined): number => Number((text ?? '0').replace('.', ''));
const WINDOW = 'from=2027.04&to=2027.06';

test('open orders are those that fall due by then, later, or whenever, and add up to the committed column of every split', async () => {
  const [now, later, all] = await Promise.all(['now', 'later', 'all'].map((due) => orders(`${WINDOW}&due=${due}`)));
  expect(now?.rows.every((r) => r.dueDate !== null && r.dueDate <= '2026-09-30' && !r.later)).toBe(true);
  expect(later?.rows.every((r) => r.later)).toBe(true);
  expect(pence(now?.total.open) + pence(later?.total.open)).toBe(pence(all?.total.open));
  // The list is held against a sum that is asked for apart; what was delivered is what was ordered less what is open.
  for (const found of [now, later, all]) {
    expect(found?.tie).toEqual({ ok: true, offBy: '0.00' });
    for (const r of found?.rows ?? []) expect(pence(r.ordered) - pence(r.open)).toBe(pence(r.delivered));
  }
  for (const by of ['account', 'dim:project', 'dim:fund', 'type']) {
    const query = `entity=KSF&${WINDOW}&by=${by}&column=committed&column=committed-later&column=own|Left|-committed|-committed-later`;
    const sheet = await readSheet(fresh.ctx, fresh.owner, readQuery(sheetShape, new URLSearchParams(query)));
    const top = sheet.rows.filter((r) => r.depth === 0);
    for (const [key, found] of [
      ['committed', now],
      ['committed-later', later],
    ] as const) {
      expect([by, top.reduce((sum, r) => sum + pence(r.values?.[key]), 0)]).toEqual([by, pence(found?.total.open)]);
      expect(sheet.values?.[key]).toBe(found?.total.open);
    }
    expect(pence(sheet.values?.['own|Left|-committed|-committed-later'])).toBe(-pence(all?.total.open));
  }
});

test('what was received, invoiced and paid of an order is what the documents after it come to', async () => {
  const more = [
    'number,type,date,amount,source,applied',
    'BX-1,invoice,2026-09-05,57600.00,PO-4101,48000.00',
    'BX-2,invoice,2026-09-20,12000.00,PO-4101,10000.00',
    'BY-1,payment,2026-09-25,30000.00,BX-1,30000.00',
    'BY-2,credit note,2026-09-26,2000.00,BX-2,2000.00',
    'BZ-1,change order,2026-09-27,500.00,PO-4101,500.00',
  ];
  await loadText(fresh, more.join('\n'), { kind: 'documents', entity: 'KSF' });
  const { rows } = await orders(`${WINDOW}&due=all`);
  const of = (number: string) => rows.find((r) => r.number === number);
  // Half of it was signed for; a change order is no bill, and a credit note settles.
  expect(of('PO-4101')).toMatchObject({ received: '48000.00', invoiced: '58000.00', paid: '32000.00' });
  expect(of('PO-4102')).toMatchObject({ received: '96000.00', invoiced: '0.00', paid: '0.00' });
  for (const row of rows) {
    const { events } = await readDocument(fresh.ctx, fresh.owner, row.number, { entity: 'KSF' });
    const bills = events.slice(1).filter((e) => !e.changes && e.document.startsWith('B'));
    expect([row.number, pence(row.invoiced ?? '')]).toEqual([
      row.number,
      bills.reduce((all, e) => all + pence(e.applied), 0),
    ]);
  }
  // Who sees cost centres alone sees no documents, and no numbers that come of them.
  const col = await demoPerson(fresh, 'col');
  const seen = await openOrders(
    fresh.ctx,
    col,
    readQuery(openOrdersShape, new URLSearchParams(`entity=KSF&${WINDOW}&due=all`)),
  ).catch(() => null);
  for (const row of seen?.rows ?? []) expect([row.received, row.invoiced, row.paid]).toEqual([null, null, null]);
});

test('each committed cell of a statement and of a position leads to the orders that add up to it', async () => {
  const sheets = [
    await statement('balance', `${WINDOW}&column=committed&open=all`),
    await statement('position', `${WINDOW}&by=dim:project`),
    await statement('position', `${WINDOW}&by=dim:fund`),
  ];
  let traced = 0;
  for (const { rows } of sheets)
    for (const row of rows) {
      if (!row.refine || pence(row.values.committed) === 0) continue;
      const params = new URLSearchParams(WINDOW);
      for (const [name, values] of Object.entries(row.refine)) for (const v of [values].flat()) params.append(name, v);
      expect([row.key, (await orders(`${params}&due=now`)).total.open.replace('-', '')]).toEqual([
        row.key,
        (row.values.committed as string).replace('-', ''),
      ]);
      traced += 1;
    }
  expect(traced).toBeGreaterThan(8);
  await expect(orders(`${WINDOW}&text=span`)).rejects.toThrow(/remove the other clauses/);
});

test('a cash account’s position: what was there, came in and went out, what is ordered and left, in the books themselves', async () => {
  const cash = await statement('position', `${WINDOW}&by=account&accounts=15*`);
  const p = (key: string, column: string): number => pence(cash.rows.find((r) => r.key === key)?.values[column]);
  for (const { key } of cash.rows) {
    expect(p(key, 'opening') + p(key, 'received') - p(key, 'spent')).toBe(p(key, 'current'));
    expect(p(key, 'current') - p(key, 'committed') - p(key, 'committedLater')).toBe(p(key, 'available'));
  }
  expect(cash.guards).toMatchObject([{ ok: true }]);
  const balance = await statement('balance', `from=2027.06&to=2027.06&open=all`);
  for (const code of ['1510', '1520'])
    expect([code, p(code, 'current')]).toEqual([
      code,
      pence(balance.rows.find((r) => r.account === code)?.values.window),
    ]);
  // Without a choice it is of the accounts that are cash, and only those.
  const own = await statement('position', `${WINDOW}&by=account`);
  expect(own.rows.map((r) => r.key)).toContain('1520');
  expect(own.rows.map((r) => r.key)).not.toContain('1310');
});
