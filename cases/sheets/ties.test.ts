import { afterEach, beforeAll, expect, test } from 'vitest';
import { linesShape, sheetShape, statementShape, trialBalanceShape } from '@/contracts/questions';
import { readQuery, scopeShape } from '@/contracts/scope';
import { type Fresh, freshInstallation, loadText } from '@/ops/fresh';
import { addEntity } from '../charts/entities';
import { runJobsHere } from '../jobs/runJob';
import { readStatement } from '../statements/readStatement';
import { readLines } from './readLines';
import { readOverTime } from './readOverTime';
import { readSheet } from './readSheet';
import { readTotals } from './readTotals';
import { readTrialBalance } from './readTrialBalance';
import { readWhatMoved } from './readWhatMoved';

// A mark that says that parts equal the whole is worth nothing unless it turns when they do not.

let fresh: Fresh;
beforeAll(async () => {
  fresh = await freshInstallation();
  await addEntity(fresh.ctx, fresh.owner, {
    code: 'ONE',
    name: 'One',
    currency: 'GBP',
    calendar: { kind: 'monthly', start: '04', adjustmentPeriods: 1 },
    yearEnd: 'derived',
    retainedEarnings: '3120',
  });
  await loadText(fresh, 'dimension,code,name,parent\nfund,F1,Fund one,\nfund,F2,Fund two,', { kind: 'dimensions' });
  const chart =
    'code,name,type,flow\n1520,Bank,asset,cash\n3120,Retained,equity,\n4110,Fares,income,operating\n6310,Repairs,expense,operating';
  await loadText(fresh, chart, { kind: 'accounts', entity: 'ONE' });
  const lines = ['entry,line,date,account,debit,credit,description,dim:fund'];
  for (const [n, month, amount] of [
    [1, '04', '100.00'],
    [2, '05', '250.00'],
    [3, '06', '75.00'],
  ] as const)
    lines.push(`J-${n},1,2026-${month}-10,6310,${amount},,Pump,F1`, `J-${n},2,2026-${month}-10,1520,,${amount},Pump,`);
  lines.push('J-4,1,2026-06-12,1520,900.00,,Fares,', 'J-4,2,2026-06-12,4110,,900.00,Fares,F2');
  await loadText(fresh, lines.join('\n'), { kind: 'lines', entity: 'ONE' });
  await runJobsHere(fresh.ctx);
  return () => fresh.close();
});

const W = 'entity=ONE&from=2027.01&to=2027.03';
const asked = (query: string) => new URLSearchParams(query);
const ask = {
  totals: (q: string) => readTotals(fresh.ctx, fresh.owner, readQuery(scopeShape, asked(q))),
  balance: (q: string) => readTrialBalance(fresh.ctx, fresh.owner, readQuery(trialBalanceShape, asked(q))),
  sheet: (q: string) => readSheet(fresh.ctx, fresh.owner, readQuery(sheetShape, asked(q))),
  lines: (q: string) => readLines(fresh.ctx, fresh.owner, readQuery(linesShape, asked(q))),
  statement: (code: string, q: string) =>
    readStatement(fresh.ctx, fresh.owner, code, readQuery(statementShape, asked(q))),
  overTime: (q: string) =>
    readOverTime(fresh.ctx, fresh.owner, { ...readQuery(scopeShape, asked(q)), measure: 'movement', periods: 12 }),
  moved: (q: string) =>
    readWhatMoved(fresh.ctx, fresh.owner, {
      ...readQuery(scopeShape, asked(q)),
      measure: 'movement',
      against: 'window-before',
    }),
};

const undo: (() => Promise<unknown>)[] = [];
/** Adds 1.00 to the debits of some rows of a table, until the test is over. */
async function tamper(table: string, where: string): Promise<void> {
  const by = async (amount: number): Promise<number> =>
    (await fresh.superuser.raw(`update ${table} set debit = debit + ? where ${where}`, [amount])).rowCount;
  expect(await by(100)).toBeGreaterThan(0);
  undo.push(() => by(-100));
}
afterEach(async () => {
  for (const back of undo.splice(0)) await back();
});
const REPAIRS = `account = (select id from account where code = '6310')`;
const OFF = { ok: false, offBy: expect.stringMatching(/^-?1\.00$/) };
const TIES = { ok: true, offBy: '0.00' };

test('all of them tie before anything is tampered with', async () => {
  expect((await ask.totals(`${W}&accounts=6310`)).tie).toEqual(TIES);
  expect((await ask.totals(`${W}&dim.fund=F1`)).tie).toEqual(TIES);
  expect((await ask.balance(W)).tie).toMatchObject(TIES);
  expect((await ask.balance(`${W}&accounts=6310`)).tie).toMatchObject(TIES);
  expect((await ask.sheet(`${W}&by=account`)).tie).toEqual(TIES);
  expect((await ask.lines(`${W}&accounts=6310`)).tie).toEqual(TIES);
  expect((await ask.moved(W)).tie).toEqual(TIES);
  expect((await ask.statement('position', `${W}&by=dim:fund`)).guards).toMatchObject([{ guard: 'position', ok: true }]);
  expect((await ask.statement('cashflow', W)).guards.every((g) => g.ok)).toBe(true);
  expect((await ask.statement('balance', W)).guards.every((g) => g.ok)).toBe(true);
});

test('a strip is held against another table than the one that answers: a changed sum turns its mark', async () => {
  await tamper('balance_period', `${REPAIRS} and period = 2702`);
  expect((await ask.totals(`${W}&accounts=6310`)).tie).toEqual(OFF);
});

test('a strip of a dimension is held against its lines', async () => {
  await tamper('balance_member', `${REPAIRS} and period = 2702 and member <> 0`);
  expect((await ask.totals(`${W}&dim.fund=F1`)).tie).toEqual(OFF);
});

test('what only lines tell is proved by nothing else, and nothing is said of it', async () => {
  expect((await ask.totals(`${W}&min=80`)).tie).toBeNull();
  expect((await ask.totals(`${W}&accounts=6310&dim.fund=F1&entry=J-1`)).tie).toBeNull();
  expect((await ask.lines(`${W}&accounts=6310&sort=-amount`)).tie).toBeUndefined();
});

test('a trial balance that does not balance says so, and since which load', async () => {
  await tamper('balance_period', `${REPAIRS} and period = 2701`);
  expect((await ask.balance(W)).tie).toMatchObject({ ...OFF, sinceLoad: expect.any(Number) });
});

test('a ledger’s running balance is held against the sums', async () => {
  await tamper('balance_period', `${REPAIRS} and period = 2703`);
  expect((await ask.lines(`${W}&accounts=6310`)).tie).toEqual(OFF);
});

test('the parts of a split are held against its whole', async () => {
  await tamper('balance_member', `${REPAIRS} and period = 2702 and member <> 0`);
  expect((await ask.sheet(`${W}&accounts=6310&by=dim:fund`)).tie).toEqual(OFF);
  expect((await ask.moved(W)).tie).toEqual(OFF);
});

test('the position of funds is held against the books by account, the cash flow against the change in cash', async () => {
  await tamper('balance_member', `${REPAIRS} and period = 2702 and member <> 0`);
  const [guard] = (await ask.statement('position', `${W}&by=dim:fund`)).guards;
  expect(guard).toMatchObject({ guard: 'position', ok: false, amount: expect.stringMatching(/^-?1\.00$/) });
  await tamper('balance_period', `account = (select id from account where code = '1520') and period = 2702`);
  expect((await ask.statement('cashflow', W)).guards).toMatchObject([{ guard: 'cash', ok: false }]);
  expect((await ask.statement('balance', W)).guards.some((g) => !g.ok)).toBe(true);
});

test('a line that is gone from the store turns the marks of what lines are held against', async () => {
  await fresh.superuser.raw(
    `update line set load = 999 where account = (select id from account where code = '6310') and entry_number = 'J-2'`,
  );
  undo.push(() => fresh.superuser.raw(`update line set load = 3 where entry_number = 'J-2' and load = 999`));
  expect((await ask.totals(`${W}&accounts=6310`)).tie).toMatchObject({ ok: false });
  expect((await ask.lines(`${W}&accounts=6310`)).tie).toMatchObject({ ok: false });
});
