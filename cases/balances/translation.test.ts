import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { linesShape, sheetShape, statementShape, trialBalanceShape } from '@/contracts/questions';
import { readQuery, scopeShape } from '@/contracts/scope';
import { parseAmount } from '@/core/money';
import { demoInstallation, type Fresh, freshInstallation, sendFile } from '@/ops/fresh';
import { addEntity } from '../charts/entities';
import { readLines } from '../sheets/readLines';
import { readSheet } from '../sheets/readSheet';
import { readTotals } from '../sheets/readTotals';
import { readTrialBalance } from '../sheets/readTrialBalance';
import { readStatement } from '../statements/readStatement';

const minor = (text: string | null): number => parseAmount(text ?? '0', 2);

describe('a group in several currencies', () => {
  let group: Fresh;
  beforeAll(async () => {
    group = await freshInstallation('2027-02-15');
    const calendar = { kind: 'monthly', start: '01', adjustmentPeriods: 1 } as const;
    for (const [code, currency] of [
      ['PAR', 'GBP'],
      ['SUB', 'NOK'],
    ] as const) {
      await addEntity(group.ctx, group.owner, {
        code,
        name: `Company ${code}`,
        currency,
        calendar,
        yearEnd: 'derived',
        retainedEarnings: '310',
      });
    }
    const load = async (name: string, rows: string[], fields: object): Promise<void> => {
      expect(await sendFile(group, name, `${rows.join('\n')}\n`, { kind: 'lines', ...fields })).toMatchObject({
        status: 'loaded',
        problems: [],
      });
    };
    const chart = [
      'code,name,type,flow',
      '100,Cash,asset,cash',
      '300,Capital,equity,financing',
      '310,Retained earnings,equity,',
      '400,Sales,income,operating',
      '500,Costs,expense,operating',
    ];
    for (const entity of ['PAR', 'SUB']) await load('chart.csv', chart, { kind: 'accounts', entity });
    // IAS 21.39 and 21.41, worked by hand. SUB in kroner: capital of 1,000 when a krone is worth 0.10, sales of 200 in a
    // month whose average is 0.11, costs of 50 in one of 0.12; at the end of February a krone is worth 0.13.
    const entry = (entity: string, no: string, date: string, account: string, amount: string): string[] => [
      `${entity},${no},1,${date},100,${amount},x`,
      `${entity},${no},2,${date},${account},${amount.startsWith('-') ? amount.slice(1) : `-${amount}`},x`,
    ];
    await load(
      'lines.csv',
      [
        'entity,entry,line,date,account,amount,description',
        ...entry('PAR', 'P1', '2026-01-01', '300', '500.00'),
        ...entry('PAR', 'P2', '2026-02-10', '400', '40.00'),
        ...entry('SUB', 'S1', '2026-01-01', '300', '1000.00'),
        ...entry('SUB', 'S2', '2026-01-20', '400', '200.00'),
        ...entry('SUB', 'S3', '2026-02-20', '500', '-50.00'),
        ...entry('SUB', 'S4', '2027-01-05', '400', '100.00'),
      ],
      {},
    );
    const rates = [
      '2026-01-01,NOK,GBP,0.10,closing',
      '2026-01-31,NOK,GBP,0.11,average',
      '2026-01-31,NOK,GBP,0.105,closing',
      '2026-02-28,NOK,GBP,0.12,average',
    ];
    await load(
      'rates.csv',
      [
        'date,from,to,rate,kind',
        ...rates,
        '2026-02-28,NOK,GBP,0.13,closing',
        '2026-12-31,NOK,GBP,0.135,closing',
        '2027-01-31,NOK,GBP,0.15,average',
        '2027-01-31,NOK,GBP,0.14,closing',
      ],
      { kind: 'rates' },
    );
  });
  afterAll(() => group?.close());
  const read = async (code: string, query: string) => {
    const s = await readStatement(group.ctx, group.owner, code, readQuery(statementShape, new URLSearchParams(query)));
    return {
      guards: s.guards,
      values: Object.fromEntries(s.rows.map((r) => [r.key, (r.values as Record<string, string | null>).window])),
      rows: s.rows,
    };
  };

  test('assets at the closing rate, results at the averages, equity at its own rate; the difference is what IAS 21.41 says', async () => {
    const income = await read('income', 'entity=PAR&entity=SUB&from=2026.01&to=2026.02');
    // 40 + 200 × 0.11 = 62 of income, 50 × 0.12 = 6 of costs.
    expect(income.values).toMatchObject({ 'total-income': '62.00', 'total-expense': '6.00', result: '56.00' });
    const balance = await read('balance', 'entity=PAR&entity=SUB&from=2026.01&to=2026.02&across=entity');
    // Assets 540 + 1,150 × 0.13 = 689.50; capital 500 + 1,000 × 0.10 = 600. The difference, proved the other way:
    // 1,000 × (0.13 − 0.10) + 200 × (0.13 − 0.11) − 50 × (0.13 − 0.12) = 33.50.
    expect(balance.values).toMatchObject({
      'total-asset': '689.50',
      'total-equity': '600.00',
      result: '56.00',
      translation: '33.50',
      total: '689.50',
    });
    expect(balance.guards.every((g) => g.ok)).toBe(true);
    const row = balance.rows.find((r) => r.key === 'total-asset')?.values;
    expect(row).toMatchObject({ 'entity=PAR': '540.00', 'entity=SUB': '149.50' });
  });

  test('earlier results keep the rates at which they were earned; opening, movement and closing meet', async () => {
    const balance = await read('balance', 'entity=SUB&in=GBP&from=2027.01&to=2027.01');
    // Assets 1,250 × 0.14 = 175; capital 100, earlier result 22 − 6 = 16, this year's 100 × 0.15 = 15; the rest is 44.
    expect(balance.values).toMatchObject({
      'total-asset': '175.00',
      'total-equity': '116.00',
      result: '15.00',
      translation: '44.00',
      total: '175.00',
    });
    const tb = await readTrialBalance(
      group.ctx,
      group.owner,
      readQuery(trialBalanceShape, new URLSearchParams('entity=SUB&in=GBP&from=2027.01&to=2027.01')),
    );
    expect(tb.currency).toBe('GBP');
    expect(tb.tie).toMatchObject({ ok: true, means: 'balances' });
    // Before 2027 the difference was at 1,150 × 0.135 − 100 − 16 = 39.25, credit.
    expect(tb.rows.find((r) => r.account === '~translation')).toMatchObject({
      name: 'Translation difference',
      opening: '-39.25',
      movement: '-4.75',
      closing: '-44.00',
    });
    for (const r of tb.rows) expect(minor(r.opening) + minor(r.movement) + minor(r.roll)).toBe(minor(r.closing));
  });

  test('by date and of a part of the books the same rates hold; only whole books have a difference', async () => {
    // The same days as the two periods give the same; at 10 February no cost is booked yet, and a krone is worth 0.105.
    const whole = await read('balance', 'entity=PAR&entity=SUB&from=2026-01-01&to=2026-02-28');
    expect(whole.values).toEqual((await read('balance', 'entity=PAR&entity=SUB&from=2026.01&to=2026.02')).values);
    // Assets 540 + 1,200 × 0.105 = 666; capital 600, results 40 + 22 = 62; the rest is 4 = 1,000 × 0.005 − 200 × 0.005.
    const early = await read('balance', 'entity=PAR&entity=SUB&from=2026-01-01&to=2026-02-10');
    expect(early.values).toMatchObject({
      'total-asset': '666.00',
      'total-equity': '600.00',
      result: '62.00',
      translation: '4.00',
      total: '666.00',
    });
    expect(early.guards.every((g) => g.ok)).toBe(true);
    const part = await read('income', 'entity=PAR&entity=SUB&from=2026.01&to=2026.02&entry=S2&entry=P2');
    expect(part.values).toMatchObject({ 'total-income': '62.00', 'total-expense': '0.00' });
    const tb = await readTrialBalance(
      group.ctx,
      group.owner,
      readQuery(
        trialBalanceShape,
        new URLSearchParams('entity=SUB&in=GBP&from=2026-01-25&to=2026-02-20&entry=S2&entry=S3'),
      ),
    );
    // 200 at 0.105 before the window is no movement of it; 50 at 0.12 is.
    expect(tb.rows.map((r) => [r.account, r.opening, r.movement, r.closing])).toEqual([
      ['100', '20.00', '-4.25', '15.75'],
      ['400', '-22.00', '0.00', '-22.00'],
      ['500', '0.00', '6.00', '6.00'],
    ]);
  });

  test('the cash flow of a group: flows at the averages, cash at closing rates, the rest is what rates did', async () => {
    const flow = await read('cashflow', 'entity=PAR&entity=SUB&from=2026.01&to=2026.02');
    // IAS 7.25 to 28, worked by hand. Operating 40 + 200 × 0.11 − 50 × 0.12 = 56; capital 500 + 1,000 × 0.11 = 610; cash at
    // the end 540 + 1,150 × 0.13 = 689.50. Rates did 1,000 × 0.02 + 200 × 0.02 − 50 × 0.01 = 23.50.
    expect(flow.values).toMatchObject({
      operating: '56.00',
      financing: '610.00',
      change: '666.00',
      exchange: '23.50',
      opening: '0.00',
      closing: '689.50',
    });
    expect(flow.guards.every((g) => g.ok)).toBe(true);
    const one = await read('cashflow', 'entity=PAR&from=2026.01&to=2026.02');
    expect(Object.keys(one.values)).not.toContain('exchange');
  });

  test('two currencies stand side by side, each as it would alone; they are not calculated with each other', async () => {
    const query = 'entity=SUB&from=2027.01&to=2027.01';
    const both = await read('balance', `${query}&column=in:GBP`);
    const alone = await read('balance', `${query}&in=GBP`);
    expect(both.values).toMatchObject({ 'total-asset': '1250.00', translation: '0.00', total: '1250.00' });
    expect(
      Object.fromEntries(both.rows.map((r) => [r.key, (r.values as Record<string, string | null>)['in:GBP']])),
    ).toEqual(alone.values);
    const tb = await readTrialBalance(
      group.ctx,
      group.owner,
      readQuery(trialBalanceShape, new URLSearchParams(`${query}&column=in:GBP`)),
    );
    expect(tb.rows.map((r) => [r.account, r.values?.window, r.values?.['in:GBP']])).toEqual([
      ['100', '1250.00', '175.00'],
      ['300', '-1000.00', '-100.00'],
      ['310', '-150.00', '-16.00'],
      ['400', '-100.00', '-15.00'],
      ['~translation', '0.00', '-44.00'],
    ]);
    expect(tb.columnTotals).toEqual({ window: '0.00', 'in:GBP': '0.00' });
    const units = await readTrialBalance(
      group.ctx,
      group.owner,
      readQuery(trialBalanceShape, new URLSearchParams(`${query}&column=in:NOK`)),
    );
    expect(units.rows.every((r) => r.values?.window === r.values?.['in:NOK'])).toBe(true);
    await expect(read('balance', `${query}&column=change:in:GBP`)).rejects.toThrow(/stands for itself alone/);
    await expect(read('balance', `${query}&column=in:XQZ`)).rejects.toThrow(/no average rate from NOK to XQZ/);
  });

  test('a figure of the group is split by company first, each translated by itself, then by account, down to the books', async () => {
    const both = 'entity=PAR&entity=SUB&from=2026.01&to=2026.02';
    const sheet = (query: string) =>
      readSheet(group.ctx, group.owner, readQuery(sheetShape, new URLSearchParams(query)));
    // Cash: 540 in pounds, and 1,150 kroner at 0.13 (IAS 21.39a).
    const cash = await sheet(`${both}&accounts=100&by=entity`);
    expect(cash.rows.map((r) => [r.member, r.closing, r.oneAccount])).toEqual([
      ['PAR', '540.00', true],
      ['SUB', '149.50', true],
    ]);
    expect([cash.total.closing, cash.tie.ok, cash.currency]).toEqual(['689.50', true, 'GBP']);
    const { total, tie } = await readTotals(
      group.ctx,
      group.owner,
      readQuery(scopeShape, new URLSearchParams(`${both}&accounts=100`)),
    );
    expect([total.closing, tie?.ok]).toEqual(['689.50', true]);
    // The company's own accounts with what is left over: −(149.50 − 100 − 22 + 6) = −33.50.
    const books = await sheet(`${both}&by=entity&by=account`);
    const ofSub = books.rows.slice(books.rows.findIndex((r) => r.member === 'SUB'));
    expect(ofSub.map((r) => [r.member, r.closing])).toEqual([
      ['SUB', '0.00'],
      ['100', '149.50'],
      ['300', '-100.00'],
      ['400', '-22.00'],
      ['500', '6.00'],
      ['~translation', '-33.50'],
    ]);
    expect(books.tie.ok).toBe(true);
    const alone = await sheet('entity=SUB&in=GBP&from=2026.01&to=2026.02&by=account');
    expect(alone.rows.map((r) => r.closing)).toEqual(ofSub.slice(1).map((r) => r.closing));
    // What a row asks for is that row again: the translated one in pounds, its lines in the books' kroner.
    const sales = ofSub.find((r) => r.member === '400')?.refine as Record<string, string>;
    expect(sales).toMatchObject({ entity: 'SUB', accounts: '400', in: 'GBP' });
    const again = await readTotals(
      group.ctx,
      group.owner,
      readQuery(scopeShape, new URLSearchParams(`from=2026.01&to=2026.02&${new URLSearchParams(sales)}`)),
    );
    expect(again.total.closing).toBe('-22.00');
    const { in: _in, ...own } = sales;
    const lines = await readLines(
      group.ctx,
      group.owner,
      readQuery(linesShape, new URLSearchParams(`from=2026.01&to=2026.02&${new URLSearchParams(own)}`)),
    );
    expect([lines.closing, lines.currency]).toEqual(['-200.00', 'NOK']);
    const rest = await sheet(`${both}&accounts=~translation&by=entity`);
    expect(rest.rows.map((r) => [r.member, r.closing])).toEqual([['SUB', '-33.50']]);
  });

  test('a rate that is missing is named, and what cannot be translated is refused', async () => {
    await expect(read('income', 'entity=SUB&in=GBP&from=2026.12&to=2027.02&column=ytd')).resolves.toBeDefined();
    await expect(read('balance', 'entity=SUB&in=USD&from=2026.01&to=2026.02')).rejects.toThrow(
      /no (average|closing) rate from NOK to USD .*; load a file of rates/,
    );
    await expect(read('income', 'entity=SUB&in=GBP&from=2026.01&to=2026.02&min=10')).rejects.toThrow(
      /in the currency of their own books/,
    );
    await expect(
      readLines(group.ctx, group.owner, readQuery(linesShape, new URLSearchParams('entity=PAR&entity=SUB&limit=1'))),
    ).rejects.toThrow(/different currencies/);
  });

  const sheet = (query: string) => readSheet(group.ctx, group.owner, readQuery(sheetShape, new URLSearchParams(query)));
  const closings = async (query: string) => {
    const { rows, tie } = await sheet(query);
    expect(tie).toEqual({ ok: true, offBy: '0.00' });
    return rows.map((r) => [r.member, r.closing]);
  };

  test('whatever lines have splits a translated figure, each part at the rates of its own accounts', async () => {
    const jan = 'from=2026.01&to=2026.02';
    // Cash at 0.13: 1,000, 200 and −50 kroner. What is equity or earned keeps the rate at which it came.
    expect(await closings(`entity=SUB&in=GBP&${jan}&accounts=100&by=entry`)).toEqual([
      ['S1', '130.00'],
      ['S2', '26.00'],
      ['S3', '-6.50'],
    ]);
    // The difference is of the whole books and so of no entry.
    expect(await closings(`entity=SUB&in=GBP&${jan}&by=entry`)).toEqual([
      ['S1', '30.00'],
      ['S2', '4.00'],
      ['S3', '-0.50'],
      ['~none', '-33.50'],
    ]);
    expect(await closings(`entity=PAR&entity=SUB&${jan}&accounts=100&by=entry`)).toEqual([
      ...[
        ['P1', '500.00'],
        ['P2', '40.00'],
      ],
      ...[
        ['S1', '130.00'],
        ['S2', '26.00'],
        ['S3', '-6.50'],
      ],
    ]);
    // Nested, the other way round, and of two companies: the same leaves.
    const nested = await sheet(`entity=PAR&entity=SUB&${jan}&accounts=100&by=entity&by=entry`);
    expect(nested.rows.filter((r) => r.depth === 0).map((r) => r.closing)).toEqual(['540.00', '149.50']);
    expect(nested.rows.every((r) => r.tie?.ok ?? true)).toBe(true);
  });

  test('in time each period stands at its own rate: what the rate moved is moved in the period in which it did', async () => {
    const cash = await sheet('entity=SUB&in=GBP&from=2026.01&to=2026.02&accounts=100&by=period');
    // 1,200 kroner at 0.105, then 1,150 at 0.13.
    expect(cash.rows.map((r) => [r.member, r.opening, r.movement, r.closing])).toEqual([
      ['2026.01', '0.00', '126.00', '126.00'],
      ['2026.02', '126.00', '23.50', '149.50'],
    ]);
    expect([cash.total.movement, cash.tie.ok]).toEqual(['149.50', true]);
    const across = await sheet('entity=SUB&in=GBP&from=2026.01&to=2026.02&by=account&across=period');
    expect(across.rows.map((r) => [r.member, ...(r.cells ?? []).map((c) => c.movement)])).toEqual([
      ['100', '126.00', '23.50'],
      ['300', '-100.00', '0.00'],
      ['400', '-22.00', '0.00'],
      ['500', '0.00', '6.00'],
      ['~translation', '-4.00', '-29.50'],
    ]);
    expect(across.tie.ok).toBe(true);
    await expect(sheet('entity=SUB&in=GBP&from=2026.01&to=2026.02&by=period&by=account')).rejects.toThrow(
      /time is split alone, or stands across/,
    );
  });

  test('lines stand as booked, with what each is worth beside; with what rates did they come to the figure', async () => {
    const lines = async (query: string) =>
      readLines(group.ctx, group.owner, readQuery(linesShape, new URLSearchParams(`entity=SUB&in=GBP&${query}`)));
    // 1,000 at 0.10, 200 at 0.10 on 20 January, −50 at 0.105 on 20 February: 114.75. At 0.13 the balance is 149.50.
    const cash = await lines('from=2026.01&to=2026.02&accounts=100');
    expect([cash.currency, cash.closing]).toEqual(['NOK', '1150.00']);
    expect(cash.rows.map((r) => [r.amount, r.worth])).toEqual([
      ['1000.00', '100.00'],
      ['200.00', '20.00'],
      ['-50.00', '-5.25'],
    ]);
    expect(cash.worth).toEqual({
      ...{ currency: 'GBP', opening: '0.00', lines: '114.75', byRates: '34.75', movement: '149.50', roll: '0.00' },
      closing: '149.50',
    });
    // Income at the average of its period comes to the figure by itself.
    const sales = await lines('from=2026.01&to=2026.02&accounts=400');
    expect([sales.rows[0]?.worth, sales.worth?.byRates, sales.worth?.closing]).toEqual(['-22.00', '0.00', '-22.00']);
    // Of the second month alone: what stood there before at its own rate. By date it is the same.
    for (const window of ['from=2026.02&to=2026.02', 'from=2026-02-01&to=2026-02-28']) {
      const february = await lines(`${window}&accounts=100`);
      expect(february.worth).toMatchObject({ opening: '126.00', lines: '-5.25', byRates: '28.75', closing: '149.50' });
      const moved = await lines(`${window}&accounts=100&openings=none`);
      expect(moved.worth).toMatchObject({ opening: '0.00', movement: '23.50', closing: '23.50' });
    }
    // In the currency of the books there is nothing to say beside.
    const own = await readLines(
      group.ctx,
      group.owner,
      readQuery(linesShape, new URLSearchParams('entity=SUB&in=NOK&from=2026.01&to=2026.02&accounts=100')),
    );
    expect([own.worth, own.rows[0]?.worth]).toEqual([undefined, undefined]);
    await expect(lines('from=2026.01&to=2026.02&accounts=100&part=allotted&opposite=400')).rejects.toThrow(
      /in the currency of the books/,
    );
  });
});

describe('the books of the demo world in another currency', () => {
  let fresh: Fresh;
  beforeAll(async () => {
    fresh = await demoInstallation();
  });
  afterAll(() => fresh?.close());

  test.each(['dim:vessel', 'dim:costcentre', 'journal', 'counterparty', 'kind', 'type', 'account', 'period'])(
    'parts by %s add up to what the trial balance shows, rounding and all',
    async (by) => {
      const scope = 'entity=KSF&in=NOK&from=2027.01&to=2027.03';
      const ask = (query: string) =>
        readSheet(fresh.ctx, fresh.owner, readQuery(sheetShape, new URLSearchParams(query)));
      const tb = await readTrialBalance(
        fresh.ctx,
        fresh.owner,
        readQuery(trialBalanceShape, new URLSearchParams(`${scope}&tree=no`)),
      );
      for (const account of ['1110', '4110', '7110']) {
        const row = tb.rows.find((r) => r.account === account);
        const found = await ask(`${scope}&accounts=${account}&by=${by}`);
        expect([account, found.currency, found.tie]).toEqual([account, 'NOK', { ok: true, offBy: '0.00' }]);
        expect([account, found.total.movement, found.total.closing]).toEqual([account, row?.movement, row?.closing]);
        const sum = found.rows.filter((r) => r.depth === 0).reduce((all, r) => all + minor(r.movement), 0);
        expect([account, sum]).toEqual([account, minor(row?.movement ?? '')]);
        for (const r of found.rows) expect(minor(r.opening) + minor(r.movement) + minor(r.roll)).toBe(minor(r.closing));
      }
    },
  );

  test('a row asks for itself again in the same currency, to within what rounding it took', async () => {
    const scope = 'entity=KSF&in=NOK&from=2027.01&to=2027.03&accounts=type expense';
    const found = await readSheet(
      fresh.ctx,
      fresh.owner,
      readQuery(sheetShape, new URLSearchParams(`${scope}&by=dim:vessel`)),
    );
    expect(found.rows.length).toBeGreaterThan(1);
    for (const row of found.rows) {
      const again = await readTotals(fresh.ctx, fresh.owner, readQuery(scopeShape, new URLSearchParams(row.address)));
      expect(again.currency).toBe('NOK');
      expect(Math.abs(minor(again.total.movement) - minor(row.movement))).toBeLessThan(60);
    }
  });
});
