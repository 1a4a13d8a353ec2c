import { afterAll, beforeAll, expect, test } from 'vitest';
import { statementShape } from '@/contracts/questions';
import { readQuery } from '@/contracts/scope';
import { type Fresh, freshInstallation, loadText } from '@/ops/fresh';
import { addEntity } from '../charts/entities';
import { runJobsHere } from '../jobs/runJob';
import { showLoad } from '../loads/loads';
import { copyBudget, keepBudget, readBudget, showBudgets } from './budgetSheet';
import { readStatement } from './readStatement';

let fresh: Fresh;
beforeAll(async () => {
  fresh = await freshInstallation();
  const calendar = { kind: 'monthly', start: '04', adjustmentPeriods: 1 } as const;
  await addEntity(fresh.ctx, fresh.owner, {
    code: 'KSF',
    name: 'Ferries',
    currency: 'GBP',
    calendar,
    yearEnd: 'derived',
    retainedEarnings: '3120',
  });
  await loadText(
    fresh,
    'dimension,code,name,parent\ncostcentre,OPS,Operations,\ncostcentre,DECK,Deck,OPS\ncostcentre,ENG,Engine,OPS',
    { kind: 'dimensions' },
  );
  const chart =
    'code,name,type,status\n1510,Bank,asset,\n3120,Retained,equity,\n4110,Tickets,income,\n6210,Fuel,expense,\n6310,Repairs,expense,\n6390,Old,expense,inactive';
  await loadText(fresh, chart, { kind: 'accounts', entity: 'KSF' });
  const lines =
    'entry,line,date,account,debit,credit,description\nA,1,2026-04-02,6210,300.00,,Fuel\nA,2,2026-04-02,1510,,300.00,Fuel';
  await loadText(fresh, lines, { kind: 'lines', entity: 'KSF' });
  const budget =
    'version,account,period,amount,dim:costcentre\nPlan,6210,2027.01,250.00,\nPlan,6210,2027.01,100.00,DECK\nPlan,6310,2027.02,70.00,ENG';
  await loadText(fresh, budget, { kind: 'budgets', entity: 'KSF' });
});
afterAll(() => fresh.close());

const read = (unit: string[] = []) => readBudget(fresh.ctx, fresh.owner, 'Plan', { entity: 'KSF', year: 2027, unit });
const rowOf = (sheet: Awaited<ReturnType<typeof read>>, account: string) =>
  sheet.rows.find((r) => r.account === account);
async function kept(unit: string[], cells: { account: string; period: string; amount: string }[]) {
  const { asOf } = await read(unit);
  const { id } = await keepBudget(fresh.ctx, fresh.owner, 'Plan', { entity: 'KSF', year: 2027, unit, asOf, cells });
  await runJobsHere(fresh.ctx);
  return showLoad(fresh.ctx, fresh.owner, id);
}
const planned = async (scope: string) => {
  const params = readQuery(
    statementShape,
    new URLSearchParams(`entity=KSF&from=2027.01&to=2027.02&column=budget:Plan&open=all&${scope}`),
  );
  const { rows } = await readStatement(fresh.ctx, fresh.owner, 'income', params);
  return Object.fromEntries(rows.flatMap((r) => (r.account ? [[r.account, r.values['budget:Plan']]] : [])));
};

test('a budget is read in the shape of the income statement, at the unit it was set for, with what others have beside it', async () => {
  const whole = await read();
  expect(whole.periods).toHaveLength(12); // no budget for period 13
  expect(whole.rows.map((r) => r.account ?? r.label)).toEqual(['Income', '4110', 'Expenses', '6210', '6310']);
  expect(rowOf(whole, '6210')).toMatchObject({ values: ['250.00', ...Array(11).fill('')], elsewhere: '100.00' });
  expect(whole.units).toEqual([
    { unit: [], name: 'Whole company', total: '250.00' },
    { unit: ['costcentre:DECK'], name: 'Deck', total: '100.00' },
    { unit: ['costcentre:ENG'], name: 'Engine', total: '70.00' },
  ]);
  expect(rowOf(await read(['costcentre:DECK']), '6210')).toMatchObject({
    values: ['100.00', ...Array(11).fill('')],
    elsewhere: '250.00',
  });
});

test('what is typed is a load of its own: it replaces its cells, leaves other units and periods, and stands in statements at its level', async () => {
  const load = await kept(
    ['costcentre:DECK'],
    [
      { account: '6210', period: '2027.01', amount: '120.50' },
      { account: '4110', period: '2027.02', amount: '-900.00' },
    ],
  );
  expect(load).toMatchObject({ status: 'loaded', kind: 'budgets', person: 'Test Owner' });
  expect(await planned('')).toEqual({ '4110': '900.00', '6210': '370.50', '6310': '70.00' });
  expect(await planned('dim.costcentre=DECK')).toMatchObject({ '4110': '900.00', '6210': '120.50' });
  // A unit above sums what is below it; nothing set above is shared out below.
  expect(await planned('dim.costcentre=OPS')).toMatchObject({ '6210': '120.50', '6310': '70.00' });
  expect(rowOf(await read(['costcentre:DECK']), '4110')?.values[1]).toBe('900.00');
  // Read as of the load before, the budget is what it was.
  expect(await planned(`load=${load.id - 1}`)).toMatchObject({ '6210': '350.00' });
});

test('a cell that is cleared is gone, even where its period is left with nothing', async () => {
  await kept(['costcentre:ENG'], [{ account: '6310', period: '2027.02', amount: '' }]);
  await kept(['costcentre:DECK'], [{ account: '4110', period: '2027.02', amount: '' }]);
  expect(rowOf(await read(['costcentre:ENG']), '6310')?.values[1]).toBe('');
  expect(await planned('')).toEqual({ '6210': '370.50' });
});

test('who read the sheet before somebody else changed it is told, and so is who names what is not there', async () => {
  const { asOf } = await read();
  const cell = { account: '6210', period: '2027.03', amount: '1.00' };
  await kept([], [cell]);
  const late = { entity: 'KSF', year: 2027, unit: [], asOf, cells: [cell] };
  await expect(keepBudget(fresh.ctx, fresh.owner, 'Plan', late)).rejects.toMatchObject({
    status: 409,
    message: expect.stringMatching(/changed Plan since/),
  });
  const wrongly = (change: object) => keepBudget(fresh.ctx, fresh.owner, 'Plan', { ...late, asOf: 99, ...change });
  await expect(wrongly({ unit: ['costcentre:NONE'] })).rejects.toThrow(/no unit/);
  await expect(wrongly({ cells: [{ ...cell, account: '9999' }] })).rejects.toThrow(/9999 is no account/);
  await expect(wrongly({ cells: [{ ...cell, period: '2027.13' }] })).rejects.toThrow(/2027\.13 is not in fiscal year/);
  await expect(wrongly({ cells: [cell, cell] })).rejects.toThrow(/stands twice/);
  await expect(
    readBudget(fresh.ctx, { ...fresh.owner, role: 'reader' }, 'Plan', { entity: 'KSF', year: 2027 }),
  ).rejects.toThrow(/may not/);
});

test('a version is copied to another year, period by period, and never over one that is there', async () => {
  const from = { version: 'Plan', year: 2027 };
  const { id } = await copyBudget(fresh.ctx, fresh.owner, { entity: 'KSF', version: 'Plan 28', year: 2028, from });
  await runJobsHere(fresh.ctx);
  expect((await showLoad(fresh.ctx, fresh.owner, id)).status).toBe('loaded');
  const copy = await readBudget(fresh.ctx, fresh.owner, 'Plan 28', {
    entity: 'KSF',
    year: 2028,
    unit: ['costcentre:DECK'],
  });
  expect(copy.rows.find((r) => r.account === '6210')?.values[0]).toBe('120.50');
  expect(
    (await showBudgets(fresh.ctx, fresh.owner, { entity: ['KSF'] })).rows.map((r) => `${r.version} ${r.year}`),
  ).toEqual(['Plan 28 2028', 'Plan 2027']);
  await expect(
    copyBudget(fresh.ctx, fresh.owner, { entity: 'KSF', version: 'Plan', year: 2027, from }),
  ).rejects.toMatchObject({ status: 409 });
});
