import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { linesShape, sheetShape, statementShape, trialBalanceShape } from '@/contracts/questions';
import { readQuery, scopeShape } from '@/contracts/scope';
import { emptyBalance } from '@/core/balances';
import { calendar } from '@/core/calendar';
import { comparedWindow } from '@/core/comparisons';
import { parseAmount } from '@/core/money';
import {
  accountsOf,
  type Outline,
  OutlineError,
  outlineFaults,
  shareOf,
  usualOutline,
  valuesOf,
} from '@/core/statement';
import { demoInstallation, type Fresh } from '@/ops/fresh';
import { known } from '../asking/context';
import { readLines } from '../sheets/readLines';
import { readSheet } from '../sheets/readSheet';
import { readTotals } from '../sheets/readTotals';
import { readTrialBalance } from '../sheets/readTrialBalance';
import { keepOutline, listStatements, readOutline, removeOutline } from './outlines';
import { readStatement } from './readStatement';

let fresh: Fresh;
beforeAll(async () => {
  fresh = await demoInstallation();
});
afterAll(() => fresh?.close());

const statement = (code: string, query: string) =>
  readStatement(fresh.ctx, fresh.owner, code, readQuery(statementShape, new URLSearchParams(query)));
const balances = async (query: string) =>
  (await readTrialBalance(fresh.ctx, fresh.owner, readQuery(trialBalanceShape, new URLSearchParams(query)))).rows;
const value = (s: Awaited<ReturnType<typeof statement>>, key: string, column = 'window'): string | null =>
  (s.rows.find((r) => r.key === key)?.values as Record<string, string | null> | undefined)?.[column] ?? null;
const minor = (text: string | null): number => parseAmount(text ?? '0', 2);

describe('the usual statements of a ledger', () => {
  test('the result is that of the trial balance, in every column, and rows open to accounts that add up to them', async () => {
    const windows = {
      window: 'from=2027.01&to=2027.06',
      'year-before': 'from=2026.01&to=2026.06',
      'last-year': 'from=2026.01&to=2026.13',
      'window-before': 'from=2026.07&to=2026.12',
    };
    const income = await statement(
      'income',
      'entity=KSF&from=2027.01&to=2027.06&column=year-before&column=last-year&column=window-before&column=ytd&open=all',
    );
    for (const [column, window] of Object.entries(windows)) {
      const rows = await balances(`entity=KSF&${window}&zero=show`);
      const result = rows
        .filter((r) => r.type === 'income' || r.type === 'expense')
        .reduce((sum, r) => sum - minor(r.movement), 0);
      expect([column, minor(value(income, 'result', column))]).toEqual([column, result]);
    }
    expect(value(income, 'result', 'ytd')).toBe(value(income, 'result'));
    for (const [i, row] of income.rows.entries()) {
      if (row.kind !== 'accounts') continue;
      const inside: number[] = [];
      for (const r of income.rows.slice(i + 1)) {
        if (r.kind !== 'account') break;
        inside.push(minor((r.values as Record<string, string>).window as string));
      }
      expect(inside.reduce((a, b) => a + b, 0)).toBe(minor((row.values as Record<string, string>).window as string));
    }
    expect(income.guards.every((g) => g.ok)).toBe(true);
  });

  test('assets equal liabilities and equity with the result, as at any date and in any past load', async () => {
    for (const query of [
      'from=2027.01&to=2027.06',
      'to=2026-03-31',
      'from=2026-07-15&to=2026-09-17',
      'from=2027.05&to=2027.05&load=5',
    ]) {
      const sheet = await statement('balance', `entity=KSF&${query}&column=last-year`);
      expect(sheet.guards.map((g) => [g.guard, g.ok])).toEqual([
        ['missing', true],
        ['twice', true],
        ['balances', true],
      ]);
      expect(value(sheet, 'total-asset')).toBe(value(sheet, 'total'));
      expect(value(sheet, 'total-asset', 'last-year')).toBe(value(sheet, 'total', 'last-year'));
    }
    const year = await statement('balance', 'entity=KSF&from=2027.06&to=2027.06');
    expect(value(year, 'result')).toBe(
      value(await statement('income', 'entity=KSF&from=2027.01&to=2027.06'), 'result'),
    );
  });

  test('flows come to the change in cash, and a row’s refinement asks for its own lines', async () => {
    const flow = await statement('cashflow', 'entity=KSF&from=2027.04&to=2027.06');
    expect(flow.guards).toMatchObject([{ guard: 'cash', ok: true }]);
    const money = await balances('entity=KSF&accounts=15&from=2027.04&to=2027.06&zero=show&tree=yes');
    const top = money.find((r) => r.account === '15');
    expect([value(flow, 'opening'), value(flow, 'change'), value(flow, 'closing')]).toEqual([
      top?.opening,
      top?.movement,
      top?.closing,
    ]);

    // A flow traces to the cash lines with that account opposite; what was paid to suppliers is in entries of two lines.
    const suppliers = flow.rows.find((r) => r.account === '2110');
    const traced = new URLSearchParams('entity=KSF&from=2027.04&to=2027.06&limit=1');
    for (const [name, value] of Object.entries(suppliers?.refine ?? {}))
      for (const v of [value].flat()) traced.append(name, v);
    expect((await readLines(fresh.ctx, fresh.owner, readQuery(linesShape, traced))).totals.movement).toBe(
      suppliers?.values.window,
    );

    const income = await statement('income', 'entity=KSF&from=2027.04&to=2027.06');
    const row = income.rows.find((r) => r.label === 'Upkeep of vessels');
    const own = await readLines(
      fresh.ctx,
      fresh.owner,
      readQuery(
        linesShape,
        new URLSearchParams(`entity=KSF&from=2027.04&to=2027.06&accounts=${row?.refine?.accounts ?? ''}&limit=1`),
      ),
    );
    expect(own.totals.movement).toBe((row?.values as Record<string, string> | undefined)?.window);
  });

  test('changes, shares, members side by side; a narrowed ledger is not asked to balance', async () => {
    const income = await statement(
      'income',
      'entity=KSF&from=2027.04&to=2027.06&column=year-before&column=change:year-before&column=change%25:year-before&column=share&column=share:ytd',
    );
    const upkeep = income.rows.find((r) => r.label === 'Upkeep of vessels')?.values as Record<string, string>;
    expect(minor(upkeep['change:year-before'] as string)).toBe(
      minor(upkeep.window as string) - minor(upkeep['year-before'] as string),
    );
    const base = minor(value(income, 'total-income'));
    expect(upkeep.share).toBe(((minor(upkeep.window as string) / base) * 100).toFixed(1));
    expect(value(income, 'total-income', 'share')).toBe('100.0');
    const vessels = await statement('income', 'entity=KSF&from=2027.04&to=2027.06&across=dim:vessel');
    for (const row of vessels.rows.filter((r) => r.kind === 'accounts' || r.kind === 'result')) {
      const { window, ...members } = row.values as Record<string, string>;
      expect(Object.values(members).reduce((sum, v) => sum + minor(v), 0)).toBe(minor(window as string));
    }
    const periods = await statement('balance', 'entity=KSF&from=2027.04&to=2027.06&across=period');
    expect(periods.columns.map((c) => c.key)).toEqual(['window', 'period=2027.04', 'period=2027.05', 'period=2027.06']);
    for (const { key } of periods.columns)
      expect(value(periods, 'total', key)).toBe(value(periods, 'total-asset', key));
    const narrowed = await statement('balance', 'entity=KSF&from=2027.06&to=2027.06&dim.vessel=TERN');
    expect(narrowed.guards.map((g) => g.guard)).toEqual(['missing', 'twice']);
  });

  test('any other window stands beside this one as it would stand alone, traces, and is refused where there is none', async () => {
    const beside = await statement(
      'income',
      'entity=KSF&from=2027.04&to=2027.06&column=over:2026.10..2026.12&column=change:over:2026.10..2026.12',
    );
    const alone = await statement('income', 'entity=KSF&from=2026.10&to=2026.12');
    expect(value(beside, 'result', 'over:2026.10..2026.12')).toBe(value(alone, 'result'));
    expect(minor(value(beside, 'result', 'change:over:2026.10..2026.12'))).toBe(
      minor(value(beside, 'result')) - minor(value(alone, 'result')),
    );
    const column = beside.columns.find((c) => c.key === 'over:2026.10..2026.12');
    expect(column).toMatchObject({ label: '2026.10 to 2026.12', scope: { from: '2026.10', to: '2026.12' } });
    const days = await statement('balance', 'entity=KSF&from=2027.06&to=2027.06&column=over:2026-04-01..2026-07-15');
    expect(value(days, 'total', 'over:2026-04-01..2026-07-15')).toBe(
      value(await statement('balance', 'entity=KSF&to=2026-07-15'), 'total'),
    );
    await expect(
      statement('income', 'entity=KSF&from=2027.06&to=2027.06&column=over:2027.06..2027.04'),
    ).rejects.toThrow(/is no window; write two periods/);
  });

  test('the same accounts by a statutory scheme come to the same result', async () => {
    const { schemes } = await listStatements(fresh.ctx, fresh.owner, { entity: 'KSF' });
    expect(schemes).toEqual(['statutory']);
    const house = await statement('income', 'entity=KSF&from=2027.04&to=2027.06');
    const scheme = await statement('income', 'entity=KSF&from=2027.04&to=2027.06&scheme=statutory');
    expect(value(scheme, 'result')).toBe(value(house, 'result'));
    expect(scheme.guards.every((g) => g.ok)).toBe(true);
    // Rows bear the captions that were loaded, in the order of the scheme and in its languages.
    const labels = async (lang: string) =>
      (await statement('income', `entity=KSF&from=2027.04&to=2027.06&scheme=statutory${lang}`)).rows
        .filter((r) => r.kind === 'accounts')
        .map((r) => r.label);
    const [own, spoken] = [await labels(''), await labels('&lang=nb')];
    expect(own.slice(0, 3)).toEqual([
      '41 Carriage of passengers and vehicles',
      '42 Carriage of goods',
      '43 Public grants',
    ]);
    expect(own.indexOf('45 Terminal services')).toBeLessThan(own.indexOf('44 Other operating income'));
    expect(spoken[1]).toBe('42 Transport av gods');
    // A caption that no account bears is a heading of what follows it and begins with it, and says what they come to.
    const rows = scheme.rows.map((r) => `${' '.repeat(r.depth)}${r.label}`);
    expect(rows.slice(0, 3)).toEqual(['Income', ' 4 Turnover', '  41 Carriage of passengers and vehicles']);
    expect(rows.slice(rows.indexOf(' 7 People')).slice(1, 5)).toEqual([
      '  70 Pay of crews',
      '  71 Pay ashore',
      '  73 Other costs of people',
      ' 83 Depreciation',
    ]);
    expect(value(scheme, 'income-4')).toBe(value(scheme, 'total-income'));
    const parts = ['expense-70', 'expense-71', 'expense-73'].map((key) => minor(value(scheme, key)));
    expect(minor(value(scheme, 'expense-7'))).toBe(parts.reduce((sum, part) => sum + part, 0));
  });
});

test('an outline is kept in versions, its guards catch what is missing and what is twice, and what cannot be calculated is refused', async () => {
  const before = await readOutline(fresh.ctx, fresh.owner, 'income', { entity: 'KSF' });
  const freight = before.outline.rows.find((r) => r.label === 'Freight')?.key;
  const kept = before.outline.rows
    .filter((r) => r.key !== freight)
    .map((r) => (r.is === 'formula' ? { ...r, terms: r.terms.filter((t) => t.row !== freight) } : r));
  const outline: Outline = {
    ...before.outline,
    rows: [
      ...kept,
      { key: 'again', label: 'Fares again', is: 'accounts', depth: 1, accounts: '4110', sign: 'credit' },
      { key: 'margin', label: 'Margin', is: 'ratio', depth: 0, over: 'result', under: 'total-income' },
    ],
  };
  expect(await keepOutline(fresh.ctx, fresh.owner, 'income', { entity: 'KSF', outline })).toEqual({ version: 1 });
  const seen = await statement('income', 'entity=KSF&from=2027.06&to=2027.06');
  const of = (guard: string) => seen.guards.find((g) => g.guard === guard);
  expect(of('missing')).toMatchObject({ ok: false, accounts: expect.arrayContaining(['4210']) });
  expect(of('twice')).toMatchObject({ ok: false, accounts: ['4110'] });
  expect(of('result')?.ok).toBe(false);
  expect(seen.rows.find((r) => r.key === 'margin')?.values).toMatchObject({
    window: expect.stringMatching(/^-?\d+\.\d$/),
  });

  const circle: Outline = {
    ...outline,
    rows: [
      { key: 'a', label: 'A', is: 'formula', depth: 0, terms: [{ row: 'b', times: 1 }] },
      { key: 'b', label: 'B', is: 'formula', depth: 0, terms: [{ row: 'a', times: 1 }] },
    ],
  };
  await expect(keepOutline(fresh.ctx, fresh.owner, 'income', { entity: 'KSF', outline: circle })).rejects.toThrow(
    /depends on itself/,
  );
  const unknown: Outline = {
    ...outline,
    rows: [{ key: 'a', label: 'A', is: 'accounts', depth: 0, accounts: '4999x', sign: 'debit' }],
  };
  await expect(keepOutline(fresh.ctx, fresh.owner, 'income', { entity: 'KSF', outline: unknown })).rejects.toThrow(
    /row “A”: .*4999x/,
  );

  // Taken away, it is as the chart makes it again; the version stays.
  await removeOutline(fresh.ctx, fresh.owner, 'income', { entity: 'KSF' });
  expect((await statement('income', 'entity=KSF&from=2027.06&to=2027.06')).guards.every((g) => g.ok)).toBe(true);
  expect(
    (await readOutline(fresh.ctx, fresh.owner, 'income', { entity: 'KSF' })).versions.map((v) => [
      v.version,
      v.removed,
    ]),
  ).toEqual([
    [2, true],
    [1, false],
  ]);
});

test('heads of columns are said in the language of the statement, names of plans as they are', async () => {
  const heads = async (lang: string) =>
    (
      await statement(
        'income',
        `entity=KSF&from=2027.01&to=2027.06&column=year-before&column=change:year-before&column=budget:Plan 2027&column=over:2026.01..2026.02${lang}`,
      )
    ).columns.map((c) => c.label);
  const own = await heads('');
  expect(own).toEqual([
    'This window',
    'Year before',
    'Change from year before',
    'Budget Plan 2027',
    '2026.01 to 2026.02',
  ]);
  expect(await heads('&lang=nb')).toEqual([
    'Denne perioden',
    'Året før',
    'Endring fra Året før',
    'Budsjett Plan 2027',
    '2026.01 to 2026.02',
  ]);
  expect(await heads('&lang=xx')).toEqual(own);
});

test('a row is of some members of a dimension, adds up to its account with the others, and traces to its own lines', async () => {
  const scope = 'entity=KSF&from=2027.01&to=2027.06';
  const split = await readSheet(
    fresh.ctx,
    fresh.owner,
    readQuery(sheetShape, new URLSearchParams(`${scope}&accounts=6310&by=dim:costcentre@2`)),
  );
  const [first, second] = split.rows.map((r) => r.member);
  const row = (key: string, members?: string[]): Outline['rows'][number] => ({
    ...{ key, label: `Repairs ${key}`, is: 'accounts', depth: 1, accounts: '6310', sign: 'debit' },
    ...(members ? { members: { costcentre: members } } : {}),
    names: { nb: `Reparasjoner ${key}` },
  });
  const keep = (rows: Outline['rows']) =>
    keepOutline(fresh.ctx, fresh.owner, 'repairs', {
      entity: 'KSF',
      outline: { code: 'repairs', name: 'Repairs', names: { nb: 'Reparasjoner' }, kind: 'income', rows } as never,
    });
  const others = split.rows.slice(1).map((r) => r.member);
  await keep([
    row('first', [first as string]),
    row('others', others),
    {
      ...{ key: 'sum', label: 'All', is: 'formula', depth: 0 },
      terms: [
        { row: 'first', times: 1 },
        { row: 'others', times: 1 },
      ],
    },
  ]);
  const query = `${scope}&column=year-before&open=first`;
  const found = await statement('repairs', query);
  expect(value(found, 'first')).toBe(split.rows[0]?.movement);
  expect(value(found, 'sum')).toBe(split.total.movement);
  expect(value(found, 'first/6310')).toBe(split.rows[0]?.movement);
  // Both rows take the one account, each its part: that is not twice, and nothing of it is left out.
  expect(found.guards.find((g) => g.guard === 'twice')?.ok).toBe(true);
  expect(found.guards.find((g) => g.guard === 'missing')?.accounts).not.toContain('6310');
  // What the row asks for is the row again, in the window of a column too; the sum of both is no one question.
  const refine = found.rows.find((r) => r.key === 'first')?.refine as Record<string, string>;
  expect(refine).toEqual({ accounts: '6310', 'dim.costcentre': first });
  const before = found.columns.find((c) => c.key === 'year-before')?.scope as Record<string, string>;
  const again = await readTotals(
    fresh.ctx,
    fresh.owner,
    readQuery(scopeShape, new URLSearchParams({ entity: 'KSF', ...before, ...refine })),
  );
  expect(again.total.movement).toBe(value(found, 'first', 'year-before'));
  expect(found.rows.find((r) => r.key === 'sum')?.refine).toBeNull();
  // Within a scope that is narrower already both hold.
  const narrow = await statement('repairs', `${scope}&dim.costcentre=${second}`);
  expect([value(narrow, 'first'), value(narrow, 'others')]).toEqual(['0.00', split.rows[1]?.movement]);
  // One part alone leaves the rest of the account in no row; the same twice is counted twice.
  await keep([row('first', [first as string])]);
  const part = (await statement('repairs', scope)).guards.find((g) => g.guard === 'missing');
  expect(part?.accounts).toContain('6310');
  await keep([row('whole'), row('first', [first as string])]);
  expect((await statement('repairs', scope)).guards.find((g) => g.guard === 'twice')).toMatchObject({
    ok: false,
    accounts: ['6310'],
    amount: split.rows[0]?.movement,
  });
  // In another language by the names that it has.
  const norsk = await statement('repairs', `${scope}&lang=nb`);
  expect([norsk.name, norsk.rows[0]?.label]).toEqual(['Reparasjoner', 'Reparasjoner whole']);
  expect(norsk.languages).toContain('nb');
  await expect(keep([row('first', ['NOBODY'])])).rejects.toThrow(/there is no costcentre “NOBODY”/);
  await removeOutline(fresh.ctx, fresh.owner, 'repairs', { entity: 'KSF' });
});

test('shares round half away from zero, nothing over nothing is empty, and an outline without headings names its accounts', () => {
  expect([shareOf(1, 3), shareOf(-1, 3), shareOf(1, 2_000_000), shareOf(-1, 2_000_000), shareOf(5, 0)]).toEqual([
    333_333,
    -333_333,
    1,
    -1,
    null,
  ]);
  const account = (code: string, type: 'income' | 'expense') => ({
    code,
    name: `Account ${code}`,
    type,
    parent: null,
    posting: true,
    groups: [],
  });
  const chart = [account('400', 'income'), account('500', 'expense'), account('510', 'expense')];
  const outline = usualOutline('income', chart);
  expect(outline.rows.filter((r) => r.is === 'accounts').map((r) => r.label)).toEqual([
    'Account 400',
    'Account 500',
    'Account 510',
  ]);
  expect(outlineFaults(outline, chart)).toEqual([]);
  expect(() =>
    valuesOf(
      { ...outline, rows: [{ key: 'x', label: 'X', is: 'ratio', depth: 0, over: 'y', under: 'x' }] },
      new Map(),
      new Map(),
      0,
    ),
  ).toThrow(OutlineError);
});

test('the income statement that comes by itself has a gross profit and an operating result where the headings let it', () => {
  const head = (code: string, name: string, type: 'income' | 'expense') => ({
    ...{ code, name, type, parent: null, posting: false, groups: [], flow: null },
  });
  const under = (parent: string, type: 'income' | 'expense', flow: string | null = null) => ({
    ...{ code: `${parent}00`, name: `Account ${parent}00`, type, parent, posting: true, groups: [], flow },
  });
  const chart = [
    ...[head('4', 'Sales', 'income'), under('4', 'income')],
    ...[head('5', 'Cost of goods sold', 'expense'), under('5', 'expense')],
    ...[head('6', 'Wages', 'expense'), under('6', 'expense')],
    ...[head('7', 'Borrowing', 'expense'), under('7', 'expense', 'financing')],
    ...[head('8', 'Interest received', 'income'), under('8', 'income')],
    ...[head('9', 'Tax on profit', 'expense'), under('9', 'expense')],
  ];
  const outline = usualOutline('income', chart);
  expect(outlineFaults(outline, chart)).toEqual([]);
  const amounts = { '400': -1000, '500': 400, '600': 250, '700': 60, '800': -10, '900': 75 };
  const balances = new Map(Object.entries(amounts).map(([code, movement]) => [code, { ...emptyBalance(), movement }]));
  const values = valuesOf(outline, accountsOf(outline, chart), balances, -225);
  const shown = outline.rows.map((r) => {
    const value = values.get(r.key);
    return [r.label, value?.is === 'amount' ? value.amount : null];
  });
  expect(shown).toEqual([
    ['Income', 0],
    ['Sales', 1000],
    ['Total income', 1000],
    ['Cost of sales', 0],
    ['Cost of goods sold', 400],
    ['Total cost of sales', 400],
    ['Gross profit', 600],
    ['Expenses', 0],
    ['Wages', 250],
    ['Operating expenses', 250],
    ['Operating result', 350],
    ['Finance and tax', 0],
    ['Interest received', 10],
    ['Borrowing', 60],
    ['Tax on profit', 75],
    ['Result', 225],
  ]);
});

test('every caption that the application itself puts on a statement is said in the languages that it knows', async () => {
  const { catalogue } = await known(fresh.ctx.read);
  const named = new Map(
    [...catalogue.entities.values()].flatMap((e) => e.chart.map((a) => [a.name, a.names] as const)),
  );
  for (const [code, query] of [
    ['income', 'entity=KSF&entity=STL&eliminated=yes'],
    ['balance', 'entity=KSF'],
    ['balance', 'entity=KSF&entity=NHS&in=GBP'],
    ['cashflow', 'entity=KSF'],
  ] as const) {
    const rows = async (lang: string | null) =>
      (await statement(code, `${query}&from=2027.01&to=2027.06${lang ? `&lang=${lang}` : ''}`)).rows;
    const [own, ...others] = await Promise.all([null, 'nb', 'de', 'fr'].map(rows));
    for (const [i, row] of (own ?? []).entries()) {
      const said = others.map((of) => of[i]?.label);
      const names = named.get(row.label);
      if (names) expect([row.label, said[0]]).toEqual([row.label, names.nb ?? row.label]);
      else for (const label of said) expect(label).not.toBe(row.label);
    }
  }
});

test('windows to compare with follow the calendar: months, 53 weeks, adjustment periods, leap days', () => {
  const months = calendar({ kind: 'monthly', start: '04', adjustmentPeriods: 1 });
  const by = (from: number, to: number) => ({ by: 'period' as const, from, to });
  expect(comparedWindow(months, by(2704, 2706), 'window-before')).toEqual(by(2701, 2703));
  expect(comparedWindow(months, by(2701, 2703), 'window-before')).toEqual(by(2610, 2612));
  expect(comparedWindow(months, by(2713, 2713), 'year-before')).toEqual(by(2613, 2613));
  expect(comparedWindow(months, by(2706, 2706), 'trailing-12')).toEqual(by(2607, 2706));
  expect(comparedWindow(months, by(2706, 2706), 'last-year')).toEqual(by(2601, 2613));
  const dates = { by: 'date' as const, from: '2028-02-01', to: '2028-02-29' };
  expect(comparedWindow(months, dates, 'year-before')).toEqual({ by: 'date', from: '2027-02-01', to: '2027-02-28' });
  expect(comparedWindow(months, dates, 'window-before')).toEqual({ by: 'date', from: '2028-01-03', to: '2028-01-31' });
  // 4-5-4 weeks ending on the Saturday nearest to the end of January (26 CFR 1.441-2, from memory).
  const weeks = calendar({
    kind: 'weeks',
    pattern: '4-5-4',
    yearEnds: { weekday: 6, month: 1, rule: 'nearest' },
    adjustmentPeriods: 0,
  });
  expect(comparedWindow(weeks, by(2701, 2701), 'window-before')).toEqual(by(2612, 2612));
  expect(comparedWindow(weeks, by(2702, 2703), 'ytd')).toEqual({ by: 'period', from: 2701, to: 2703 });
});

test('dealings within the group are taken out; what does not cancel is a row that traces to both sides', async () => {
  const query = 'entity=KSF&entity=STL&from=2026.01&to=2026.13';
  const added = await statement('income', query);
  const eliminated = await statement('income', `${query}&eliminated=yes`);
  // Story 8: the terminals book a month of harbour dues in period 13 that the ferries book in April.
  const left = eliminated.rows.find((r) => r.key === 'intercompany');
  expect(minor(value(eliminated, 'intercompany'))).not.toBe(0);
  expect(value(eliminated, 'result')).toBe(value(added, 'result'));
  expect(eliminated.guards.filter((g) => !g.ok)).toEqual([]);
  expect(minor(value(eliminated, 'total-income'))).toBeLessThan(minor(value(added, 'total-income')));
  // The row traces to the lines of both companies with each other, which come to it.
  const params = new URLSearchParams(query);
  for (const [name, values] of Object.entries(left?.refine ?? {}))
    for (const v of [values].flat()) params.append(name, v);
  params.append('by', 'entity');
  const pair = await readSheet(fresh.ctx, fresh.owner, readQuery(sheetShape, params));
  expect(pair.rows.map((r) => r.member)).toEqual(['KSF', 'STL']);
  expect(pair.total.movement).toBe(value(eliminated, 'intercompany'));
  // The whole group, kroner and all, balances with them taken out.
  const group = await statement('balance', 'entity=KSF&entity=STL&entity=NHS&from=2027.01&to=2027.06&eliminated=yes');
  expect(group.guards.filter((g) => !g.ok)).toEqual([]);
  expect(value(group, 'total-asset')).toBe(value(group, 'total'));
});

test('a dimension that is not there is refused by its parameter, side by side as in a split', async () => {
  const refused = { status: 422, errors: [{ message: expect.stringMatching(/there is no dimension “none”/) }] };
  await expect(statement('income', 'entity=KSF&from=2027.04&to=2027.06&across=dim:none')).rejects.toMatchObject(
    refused,
  );
  await expect(statement('income', 'entity=KSF&from=2027.04&to=2027.06&across=none')).rejects.toMatchObject({
    errors: [{ path: 'across' }],
  });
  const sheet = (query: string) => readSheet(fresh.ctx, fresh.owner, readQuery(sheetShape, new URLSearchParams(query)));
  await expect(sheet('entity=KSF&by=dim:none')).rejects.toMatchObject(refused);
});

test('positions of a group are translated: each member as the books are, to within the rounding of its parts', async () => {
  const query = 'entity=KSF&entity=NHS&in=GBP&from=2027.04&to=2027.06';
  const positions = await statement('position', `${query}&by=dim:project`);
  const balance = await statement('balance', query.replace('2027.04', '2027.01'));
  // What is left of members is equity with this year's result, the translation difference left out: it is of no member.
  const owned = minor(value(balance, 'total-equity')) + minor(value(balance, 'result'));
  expect(Math.abs(minor(value(positions, 'total', 'current')) - owned)).toBeLessThan(100);
  expect(Math.abs(owned)).toBeGreaterThan(1_000_000_00);
});

test('a fund’s position: opening, what came in and went out, open orders now and later, what is left; it traces', async () => {
  const funds = await statement('position', 'entity=KSF&from=2027.04&to=2027.06&by=dim:fund');
  const of = (key: string) =>
    Object.fromEntries(
      Object.entries(funds.rows.find((r) => r.key === key)?.values ?? {}).map(([k, v]) => [k, minor(v)]),
    );
  for (const row of funds.rows) {
    const p = of(row.key) as Record<string, number>;
    const [opening, adjustments, received, spent] = [p.opening, p.adjustments, p.received, p.spent] as [
      number,
      number,
      number,
      number,
    ];
    expect(p.current).toBe(opening + adjustments + received - spent);
    expect(p.available).toBe((p.current as number) - (p.committed as number) - (p.committedLater as number));
  }
  // Story 2: one quarter of a grant is in the unrestricted fund; what was received in the window traces to its lines.
  const unrestricted = funds.rows.find((r) => r.key === 'UNR');
  const column = funds.columns.find((c) => c.key === 'received');
  const params = new URLSearchParams('entity=KSF&limit=1');
  for (const [name, values] of Object.entries({ ...column?.scope, ...unrestricted?.refine }))
    for (const v of [values].flat()) params.append(name, v);
  const own = await readLines(fresh.ctx, fresh.owner, readQuery(linesShape, params));
  expect(minor(own.totals.movement)).toBe(0 - minor(value(funds, 'UNR', 'received')));
  const projects = await statement('position', 'entity=KSF&from=2027.04&to=2027.06&by=dim:project');
  expect(minor(value(projects, 'total', 'committed'))).toBeGreaterThan(0);
  expect(minor(value(projects, 'total', 'committedLater'))).toBeGreaterThan(0);
});
