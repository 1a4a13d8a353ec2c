import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { linesShape, sheetShape, statementShape, trialBalanceShape } from '@/contracts/questions';
import { readQuery, scopeShape } from '@/contracts/scope';
import { add, parseAmount } from '@/core/money';
import { Random } from '@/demo/random';
import { demoInstallation, type Fresh, freshInstallation, loadText } from '@/ops/fresh';
import { addEntity } from '../charts/entities';
import { runJobsHere } from '../jobs/runJob';
import { readEntry } from '../sheets/readEntry';
import { readLines } from '../sheets/readLines';
import { readSheet } from '../sheets/readSheet';
import { readTotals } from '../sheets/readTotals';
import { readTrialBalance } from '../sheets/readTrialBalance';
import { readStatement } from '../statements/readStatement';
import { check } from '../upkeep/check';
import { askCashBasis, readCashBasis } from './cashBasis';

// The rule is method.md §15, common practice with no published source: on the cash basis income and expense of a document
// count when it is settled, in proportion, and its control account shows nothing.

const minor = (text: string): number => parseAmount(text, 2);
const ask = (fresh: Fresh) => ({
  tb: async (query: string) =>
    Object.fromEntries(
      (
        await readTrialBalance(
          fresh.ctx,
          fresh.owner,
          readQuery(trialBalanceShape, new URLSearchParams(`tree=no&zero=show&${query}`)),
        )
      ).rows.map((r) => [r.account, r]),
    ),
  sheet: (query: string) => readSheet(fresh.ctx, fresh.owner, readQuery(sheetShape, new URLSearchParams(query))),
  lines: (query: string) => readLines(fresh.ctx, fresh.owner, readQuery(linesShape, new URLSearchParams(query))),
  totals: (query: string) => readTotals(fresh.ctx, fresh.owner, readQuery(scopeShape, new URLSearchParams(query))),
});

describe('a small ledger, worked by hand', () => {
  let fresh: Fresh;
  const HEAD = 'entry,line,date,account,amount,description,document';
  const DOCS = 'number,type,date,currency,amount,account,source,applied';
  const load = (rows: string[], kind = 'lines', more: object = {}) =>
    loadText(fresh, rows.join('\n'), { kind, entity: 'ONE', ...more } as never);
  beforeAll(async () => {
    fresh = await freshInstallation('2026-12-31');
    await addEntity(fresh.ctx, fresh.owner, {
      ...{ code: 'ONE', name: 'One', currency: 'GBP', yearEnd: 'derived', retainedEarnings: '3200' },
      calendar: { kind: 'monthly', start: '01', adjustmentPeriods: 1 },
    } as never);
    await load(
      [
        'code,name,type,flow',
        ...[
          '1000,Bank,asset,cash',
          '1200,Receivables,asset,',
          '2100,Payables,liability,',
          '2300,Output tax,liability,',
        ],
        ...['3200,Retained,equity,', '4000,Sales,income,', '5000,Costs,expense,', '5100,Carriage,expense,'],
      ],
      'accounts',
    );
    await load([
      HEAD,
      // An invoice of 120.00 with 20.00 of tax in January; 30.00 received in February and 90.00 in April.
      ...['S1,1,2026-01-10,1200,120.00,x,I1', 'S1,2,2026-01-10,4000,-100.00,x,I1', 'S1,3,2026-01-10,2300,-20.00,x,I1'],
      ...['R1,1,2026-02-05,1000,30.00,x,R1', 'R1,2,2026-02-05,1200,-30.00,x,I1'],
      ...['R2,1,2026-04-06,1000,90.00,x,R2', 'R2,2,2026-04-06,1200,-90.00,x,I1'],
      // A bill of 10.00 in three lines, a third of which is paid in each of three months: pennies are left over.
      ...['P1,1,2026-01-20,2100,-10.00,x,B1', 'P1,2,2026-01-20,5000,3.33,x,', 'P1,3,2026-01-20,5100,6.67,x,'],
      ...['C1,1,2026-02-01,2100,3.33,x,B1', 'C1,2,2026-02-01,1000,-3.33,x,'],
      ...['C2,1,2026-03-01,2100,3.33,x,B1', 'C2,2,2026-03-01,1000,-3.33,x,'],
      ...['C3,1,2026-05-01,2100,3.34,x,B1', 'C3,2,2026-05-01,1000,-3.34,x,'],
      // Never settled; and cash that bears no document.
      ...['S2,1,2026-03-03,1200,50.00,x,I2', 'S2,2,2026-03-03,4000,-50.00,x,I2'],
      ...['M1,1,2026-03-04,1000,7.00,x,', 'M1,2,2026-03-04,4000,-7.00,x,'],
      // Two documents in one entry, the lines of neither balancing by themselves.
      ...['S3,1,2026-03-05,1200,10.00,x,I3', 'S3,2,2026-03-05,1200,5.00,x,I4', 'S3,3,2026-03-05,4000,-15.00,x,'],
    ]);
    await load(
      [
        DOCS,
        ...['I1,invoice,2026-01-10,GBP,120.00,1200,,', 'I2,invoice,2026-03-03,GBP,50.00,1200,,'],
        ...['I3,invoice,2026-03-05,GBP,10.00,1200,,', 'I4,invoice,2026-03-05,GBP,5.00,1200,,'],
        ...['I9,invoice,2026-03-05,GBP,9.00,1200,,', 'B1,bill,2026-01-20,GBP,10.00,2100,,'],
        ...['R1,receipt,2026-02-05,GBP,30.00,1200,I1,30.00', 'R2,receipt,2026-04-06,GBP,90.00,1200,I1,90.00'],
        ...['C1,payment,2026-02-01,GBP,3.33,2100,B1,3.33', 'C2,payment,2026-03-01,GBP,3.33,2100,B1,3.33'],
        'C3,payment,2026-05-01,GBP,3.34,2100,B1,3.34',
      ],
      'documents',
    );
  });
  afterAll(() => fresh?.close());

  test('is not there before somebody has it kept, and says so', async () => {
    await expect(ask(fresh).tb('entity=ONE&from=2026.01&to=2026.12&accounting=cash')).rejects.toThrow(
      /ONE keeps no cash basis yet/,
    );
    const { job } = await askCashBasis(fresh.ctx, fresh.owner, 'ONE');
    expect(job).not.toBeNull();
    // Asked twice it is one job.
    expect(await askCashBasis(fresh.ctx, fresh.owner, 'ONE')).toEqual({ job });
    await runJobsHere(fresh.ctx);
    expect(await askCashBasis(fresh.ctx, fresh.owner, 'ONE')).toEqual({ job: null });
    await expect(ask(fresh).tb('entity=ONE&from=2026.01&to=2026.12&accounting=cash&load=1')).rejects.toThrow(
      /since load/,
    );
  });

  test('income and expense count on the days of settlement, in proportion; control accounts show nothing of it', async () => {
    const { tb } = ask(fresh);
    const movements = async (period: string, basis = 'cash') => {
      const rows = await tb(`entity=ONE&from=${period}&to=${period}&accounting=${basis}`);
      return Object.fromEntries(
        ['1000', '1200', '2100', '2300', '4000', '5000', '5100'].flatMap((a) =>
          rows[a]?.movement === '0.00' ? [] : [[a, rows[a]?.movement]],
        ),
      );
    };
    expect(await movements('2026.01')).toEqual({});
    expect(await movements('2026.01', 'accrual')).toMatchObject({ 1200: '120.00', 4000: '-100.00', 5000: '3.33' });
    // 30 of 120: a quarter of the sale and of its tax; a third of the bill: 1.11 and 2.22.
    expect(await movements('2026.02')).toEqual({
      ...{ 1000: '26.67', 4000: '-25.00', 2300: '-5.00', 5000: '1.11', 5100: '2.22' },
    });
    // What bears no document is as booked; I3 and I4 cannot be converted and stand as they are.
    expect(await movements('2026.03')).toEqual({
      ...{ 1000: '3.67', 4000: '-22.00', 1200: '15.00', 5000: '1.11', 5100: '2.22' },
    });
    expect(await movements('2026.04')).toEqual({ 1000: '90.00', 4000: '-75.00', 2300: '-15.00' });
    expect(await movements('2026.05')).toEqual({ 1000: '-3.34', 5000: '1.11', 5100: '2.23' });
    const year = await tb('entity=ONE&from=2026.01&to=2026.12&accounting=cash');
    expect(year['2100']?.closing).toBe('0.00');
    expect(year['1200']?.closing).toBe('15.00');
  });

  test('what cannot be converted is listed with why', async () => {
    const { rows, since } = await readCashBasis(fresh.ctx, fresh.owner, 'ONE');
    expect(since).not.toBeNull();
    expect(rows.map((r) => [r.document, r.reason.split(',')[0]])).toEqual([
      ['I3', 'its entry is shared with other documents'],
      ['I4', 'its entry is shared with other documents'],
      ['I9', 'no entry with its number comes to its amount'],
    ]);
  });

  test('its lines are lines like any other: split, listed, traced to an entry that balances, and proved', async () => {
    const { sheet, lines, totals } = ask(fresh);
    const scope = 'entity=ONE&accounting=cash&from=2026.01&to=2026.12';
    const split = await sheet(`${scope}&accounts=4000&by=document&across=period`);
    expect(split.tie.ok).toBe(true);
    expect(split.rows.map((r) => [r.member, r.movement])).toEqual([
      ['I1', '-100.00'],
      ['I2', '0.00'],
      ['~none', '-22.00'],
    ]);
    const listed = await lines(`${scope}&accounts=4000&document=I1`);
    expect(listed.rows.map((r) => [r.entry, r.date, r.amount, r.running])).toEqual([
      ['S1', '2026-01-10', '-100.00', '-100.00'],
      ['S1 I1 not settled', '2026-01-10', '100.00', '0.00'],
      ['S1 I1 settled 2026-02-05', '2026-02-05', '-25.00', '-25.00'],
      ['S1 I1 settled 2026-04-06', '2026-04-06', '-75.00', '-100.00'],
    ]);
    const settled = await readEntry(fresh.ctx, fresh.owner, listed.rows[2]?.entryId ?? '', {});
    expect(settled.description).toBe('Settled on this day by R1: document I1');
    expect(settled.lines.map((l) => [l.account, l.amount])).toEqual([
      ['1200', '30.00'],
      ['4000', '-25.00'],
      ['2300', '-5.00'],
    ]);
    const figure = await totals(`${scope}&accounts=4000`);
    expect([figure.total.movement, figure.tie?.ok]).toEqual(['-122.00', true]);
    // A page of lines goes on where the one before ended.
    const first = await lines(`${scope}&accounts=4000&limit=2`);
    const rest = await lines(`${scope}&accounts=4000&limit=50&after=${first.next}`);
    expect([...first.rows, ...rest.rows].map((r) => r.id)).toEqual(
      (await lines(`${scope}&accounts=4000&limit=50`)).rows.map((r) => r.id),
    );
    const income = await readStatement(
      fresh.ctx,
      fresh.owner,
      'income',
      readQuery(statementShape, new URLSearchParams(scope)),
    );
    expect(income.rows.find((r) => r.key === 'result')?.values).toMatchObject({ window: '112.00' });
    expect(income.sentence).toContain('on the cash basis');
    for (const code of ['position'])
      await expect(
        readStatement(
          fresh.ctx,
          fresh.owner,
          code,
          readQuery(statementShape, new URLSearchParams(`${scope}&by=account`)),
        ),
      ).rejects.toThrow(/of the books as booked|is no statement/);
  });

  test('a later load moves it with what it brings, and takes back; an earlier load stays as it was', async () => {
    const { tb } = ask(fresh);
    const sales = async (more = '') =>
      (await tb(`entity=ONE&from=2026.01&to=2026.12&accounting=cash${more}`))['4000']?.movement;
    const before = (await readCashBasis(fresh.ctx, fresh.owner, 'ONE')).since;
    await load([HEAD, 'R3,1,2026-06-01,1000,20.00,x,R3', 'R3,2,2026-06-01,1200,-20.00,x,I2']);
    // Money came in, but nothing says yet what it settles: it stands on the control account.
    expect(await sales()).toBe('-122.00');
    await load([DOCS, 'R3,receipt,2026-06-01,GBP,20.00,1200,I2,20.00'], 'documents');
    expect(await sales()).toBe('-142.00');
    expect(await sales(`&load=${before}`)).toBe('-122.00');
    // The month of the sale comes again, at half: of 25.00, 20.00 are settled.
    await load(
      [
        HEAD,
        ...['S2,1,2026-03-03,1200,25.00,x,I2', 'S2,2,2026-03-03,4000,-25.00,x,I2'],
        ...['C2,1,2026-03-01,2100,3.33,x,B1', 'C2,2,2026-03-01,1000,-3.33,x,'],
      ],
      'lines',
      { replaces: '2026.03' },
    );
    // Its document still says 50.00: no entry comes to that any more.
    expect((await readCashBasis(fresh.ctx, fresh.owner, 'ONE')).rows.map((r) => r.document)).toContain('I2');
    await load([DOCS, 'I2,invoice,2026-03-03,GBP,25.00,1200,,'], 'documents');
    expect((await readCashBasis(fresh.ctx, fresh.owner, 'ONE')).rows.map((r) => r.document)).not.toContain('I2');
    expect(await sales()).toBe('-120.00');
    const off = [];
    for await (const { what, ok, detail } of check(fresh.ctx)) if (!ok) off.push(`${what}: ${detail}`);
    expect(off).toEqual([]);
  });
});

test('in the demo world both bases come to the same once all is settled, period by period in balance', async () => {
  const fresh = await demoInstallation();
  try {
    await askCashBasis(fresh.ctx, fresh.owner, 'KSF');
    await runJobsHere(fresh.ctx);
    const { tb, sheet } = ask(fresh);
    const scope = 'entity=KSF&accounting=cash';
    for (const window of ['from=2026.01&to=2026.13', 'from=2027.04&to=2027.06', 'from=2026-05-10&to=2026-08-20']) {
      const rows = Object.values(await tb(`${scope}&${window}`));
      for (const measure of ['opening', 'movement', 'closing'] as const)
        expect([
          window,
          measure,
          rows.filter((r) => !r.heading).reduce((sum, r) => add(sum, minor(r[measure])), 0),
        ]).toEqual([...[window, measure, 0]]);
    }
    const split = await sheet(`${scope}&from=2026.01&to=2026.12&accounts=type income&by=dim:route`);
    expect(split.tie.ok).toBe(true);
    // Of what was settled in the end nothing is left between the two: the difference is what is still owed, with its tax.
    const random = new Random(5);
    const documents = (
      await ask(fresh).lines('entity=KSF&from=2025.02&to=2025.06&accounts=1310&limit=200')
    ).rows.flatMap((r) => (r.document ? [r.document] : []));
    for (let i = 0; i < 8; i++) {
      const document = encodeURIComponent(random.pick(documents));
      const window = 'window=everything';
      const [accrual, cash] = await Promise.all(
        ['accrual', 'cash'].map((basis) =>
          sheet(`entity=KSF&accounting=${basis}&${window}&document=${document}&by=account`),
        ),
      );
      const owed = cash?.rows.find((r) => r.member === '1310')?.closing ?? '0.00';
      const open = accrual?.rows.find((r) => r.member === '1310')?.closing ?? '0.00';
      expect([document, owed]).toEqual([document, '0.00']);
      const income = (s: typeof accrual) => s?.rows.filter((r) => r.member.startsWith('4')).map((r) => r.closing);
      if (open === '0.00') expect([document, income(cash)]).toEqual([document, income(accrual)]);
    }
  } finally {
    await fresh.close();
  }
});
