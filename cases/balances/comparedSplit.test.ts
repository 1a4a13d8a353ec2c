import { afterAll, beforeAll, expect, test } from 'vitest';
import { sheetShape, statementShape, totalsShape } from '@/contracts/questions';
import { readQuery } from '@/contracts/scope';
import { demoInstallation, type Fresh } from '@/ops/fresh';
import { readSheet } from '../sheets/readSheet';
import { readTotals } from '../sheets/readTotals';
import { readStatement } from '../statements/readStatement';

// Columns to compare with beside the rows of a split, over the demo world. The laws are in laws.test.ts.

let fresh: Fresh;
beforeAll(async () => {
  fresh = await demoInstallation();
});
afterAll(() => fresh?.close());

const split = (query: string) => readSheet(fresh.ctx, fresh.owner, readQuery(sheetShape, new URLSearchParams(query)));
const minor = (text: string | null | undefined): number => Math.round(Number(text) * 100);
const PLAN = 'column=budget:Plan 2027&column=variance:Plan 2027';
const COSTS = 'entity=KSF&accounts=63*&from=2027.01&to=2027.06';

test('a plan stands beside the actual at every level that it was set by, and nowhere below', async () => {
  const plan = 'budget:Plan 2027';
  const nested = await split(`${COSTS}&by=dim:costcentre&by=account&${PLAN}`);
  expect(nested.tie.ok).toBe(true);
  const tops = nested.rows.filter((r) => r.depth === 0);
  expect(tops.reduce((sum, r) => sum + minor(r.values?.[plan]), 0)).toBe(minor(nested.values?.[plan]));
  for (const row of nested.rows) {
    const { values } = row;
    // Licences are planned for the company, not for its units, and lay-up for nobody.
    const said = values?.[plan] !== null;
    expect([row.member, said]).toEqual([row.member, !['6330', '6340', '6350'].includes(row.member)]);
    const variance = said ? minor(values?.window) - minor(values?.[plan]) : 0;
    expect(minor(values?.['variance:Plan 2027'])).toBe(variance);
  }
  // The same plan for the same unit, as a statement shows it (method.md §9): its expenses are positive as they are here.
  const [unit] = tops;
  const statement = await readStatement(
    fresh.ctx,
    fresh.owner,
    'income',
    readQuery(
      statementShape,
      new URLSearchParams(`entity=KSF&from=2027.01&to=2027.06&dim.costcentre=${unit?.member}&column=${plan}&open=all`),
    ),
  );
  const upkeep = 'rows' in statement ? statement.rows.find((r) => r.label === 'Upkeep of vessels') : undefined;
  expect(minor(unit?.values?.[plan])).toBeGreaterThan(0);
  expect(unit?.values?.[plan]).toBe(upkeep?.values[plan]);

  for (const by of ['period', 'month', 'type', 'account/1', 'entity']) {
    const sheet = await split(`${COSTS}&by=${by}&${PLAN}`);
    expect([by, sheet.tie.ok, sheet.rows.reduce((sum, r) => sum + minor(r.values?.[plan]), 0)]).toEqual([
      by,
      true,
      minor(nested.values?.[plan]),
    ]);
  }
  // Nobody plans by journal or by supplier: nothing is said there, rather than something invented.
  const { rows, values, tie } = await split(`${COSTS}&by=counterparty&${PLAN}`);
  expect([tie.ok, values?.[plan]]).toEqual([true, nested.values?.[plan]]);
  expect(rows.map((r) => r.values?.[plan]).every((v) => v === null)).toBe(true);
});

test('a plan is compared with its like, and says nothing of what it was not set by', async () => {
  const plan = 'budget:Plan 2027';
  const variance = 'variance:Plan 2027';
  const planned = async (query: string, splits = 'by=dim:vessel/FLEET') =>
    split(`entity=KSF&${query}&${splits}&column=${plan}&column=${variance}`);
  // Upkeep is planned by cost centre: of the vessels nobody said anything, though what they cost is known.
  const planOf = 'accounts=6310 to 6340&from=2027.01&to=2027.06';
  const vessels = await planned(planOf, 'by=dim:vessel');
  const fleet = await planned(planOf);
  expect(fleet.rows.length).toBeGreaterThan(3);
  for (const { values } of [...vessels.rows, ...fleet.rows, fleet])
    expect([values?.[plan], values?.[variance]]).toEqual([null, null]);
  expect(minor(vessels.values?.[plan])).toBeGreaterThan(0);
  expect(vessels.compared?.find((c) => c.key === plan)?.title).toBe('6310, 6320, 6330 not planned by vessel');
  const below = await planned('accounts=63*&from=2027.01&to=2027.06', 'by=dim:costcentre&by=dim:vessel');
  for (const { depth, values } of below.rows)
    expect([depth, values?.[plan] === null, values?.[variance] === null]).toEqual([depth, depth === 1, depth === 1]);
  const [unit] = below.rows;
  // Narrowed to a vessel, nothing of it is known either: not nought, and no variance of all that was spent.
  const maren = await planned('accounts=63*&from=2027.01&to=2027.06&dim.vessel=MAREN', 'by=account');
  expect([maren.values?.[plan], maren.values?.[variance]]).toEqual([null, null]);
  expect(minor(maren.rows[0]?.values?.window)).toBeGreaterThan(0);
  // What stands at a month's end is of the year so far, and so is the plan beside it.
  const at = await planned(`accounts=63*&from=2027.06&to=2027.06&compare=closing`, 'by=dim:costcentre');
  expect(minor(at.values?.window)).toBeGreaterThan(0);
  expect(at.values?.[plan]).toBe(below.values?.[plan]);
  expect(at.rows.find((r) => r.member === unit?.member)?.values?.[plan]).toBe(unit?.values?.[plan]);
  // A month is planned whole; of eleven days of it nothing is.
  const days = async (from: string, to: string) =>
    (await planned(`accounts=63*&from=${from}&to=${to}&compare=movement`, 'by=account')).values?.[plan];
  const month = await planned('accounts=63*&from=2027.06&to=2027.06&compare=movement', 'by=account');
  expect(await days('2026-09-01', '2026-09-30')).toBe(month.values?.[plan]);
  expect(await days('2026-09-10', '2026-09-20')).toBeNull();
  // Nobody plans what is in the bank by planning fares, and no plan is in another currency than its books.
  const bank = await planned('accounts=15*&from=2027.01&to=2027.06', 'by=account');
  expect([bank.values?.[plan], bank.values?.[variance]]).toEqual([null, null]);
  const group = await readStatement(
    fresh.ctx,
    fresh.owner,
    'income',
    readQuery(
      statementShape,
      new URLSearchParams(`entity=KSF&entity=NHS&currency=GBP&from=2027.01&to=2027.06&column=${plan}`),
    ),
  );
  expect('rows' in group && group.rows.map((r) => r.values[plan]).every((value) => value === null)).toBe(true);
});

test('the average of some lines is between the smallest and the largest of them', async () => {
  const statistics = ['smallest', 'average', 'largest'];
  const { rows, values } = await split(
    `${COSTS}&by=dim:costcentre&compare=movement&${statistics.map((s) => `column=${s}`).join('&')}`,
  );
  for (const row of [...rows, { values }]) {
    const [smallest = 0, average = 0, largest = 0] = statistics.map((s) => minor(row.values?.[s]));
    expect([smallest, average, largest].toSorted((a, b) => a - b)).toEqual([smallest, average, largest]);
  }
});

test('who vanished and who is new each have a row, with nothing on the other side', async () => {
  const { rows, tie } = await split(
    'entity=KSF&accounts=6320&from=2027.04&to=2027.06&by=dim:project&column=year-before&column=change:year-before',
  );
  expect(tie.ok).toBe(true);
  const shown = rows.map((r) => [r.member, minor(r.values?.window) !== 0, minor(r.values?.['year-before']) !== 0]);
  expect(shown).toContainEqual(['LINK-BRE', true, false]); // story 1: the copy of the invoice, on another project
  expect(shown.some(([, now, before]) => !now && before)).toBe(true);
});

test('story 12: as many were paid as a month before, in one cost centre at a rate that is 11 % up', async () => {
  const columns = ['quantity', 'quantity:window-before', 'per-unit', 'per-unit:window-before']
    .map((c) => `&column=${c}`)
    .join('');
  const { rows } = await split(`entity=KSF&accounts=7110&from=2027.02&to=2027.02&by=dim:costcentre@3${columns}`);
  const shown = rows.map(({ member, values: v }) => ({
    member,
    hired: Number(v?.quantity) - Number(v?.['quantity:window-before']),
    rise: Number(v?.['per-unit']) / Number(v?.['per-unit:window-before']),
  }));
  expect(shown.length).toBeGreaterThan(1);
  expect(shown.every((t) => t.hired === 0)).toBe(true);
  expect(shown.filter((t) => t.rise > 1.01).map((t) => [t.member, t.rise.toFixed(2)])).toEqual([['SH-HAR', '1.11']]);
});

test('a group by company in its currency, beside the year before and beside the books’ own', async () => {
  const group = 'entity=KSF&entity=NHS&in=GBP&from=2027.04&to=2027.06&accounts=type expense';
  const { rows, values, tie } = await split(`${group}&by=entity&column=year-before&column=in:NOK`);
  expect(tie.ok).toBe(true);
  for (const column of ['window', 'year-before', 'in:NOK'])
    expect(rows.reduce((sum, r) => sum + minor(r.values?.[column]), 0)).toBe(minor(values?.[column]));
  const own = await readTotals(
    fresh.ctx,
    fresh.owner,
    readQuery(totalsShape, new URLSearchParams('entity=NHS&from=2027.04&to=2027.06&accounts=type expense')),
  );
  expect(rows.find((r) => r.member === 'NHS')?.values?.['in:NOK']).toBe(own.total.movement);
});

test('windows that are not as long have no likes to stand beside, and a crosstab has no such columns', async () => {
  const { compared, rows } = await split(`${COSTS}&by=period&column=trailing-12&column=year-before`);
  expect(compared?.find((c) => c.key === 'trailing-12')?.title).toContain('not as long');
  expect(rows.every((r) => r.values?.['trailing-12'] === null)).toBe(true);
  expect(rows.map((r) => r.scopes?.['year-before']?.from)).toEqual(rows.map((r) => r.member.replace('2027', '2026')));
  await expect(split(`${COSTS}&by=account&across=period&column=year-before`)).rejects.toThrow(/leave out across/);
});
