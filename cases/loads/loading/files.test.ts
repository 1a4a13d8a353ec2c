import { createReadStream, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { statementShape, trialBalanceShape } from '@/contracts/questions';
import { readQuery, scopeShape } from '@/contracts/scope';
import { CYCLE, CYCLE_CHART, CYCLE_TOTALS, cycleFile } from '@/core/testing/publishedCycle';
import { type Fresh, freshInstallation, sendFile } from '@/ops/fresh';
import { addEntity } from '../../charts/entities';
import { pin, showPin } from '../../evidence/pins';
import { runJobsHere } from '../../jobs/runJob';
import { readLines } from '../../sheets/readLines';
import { readTotals } from '../../sheets/readTotals';
import { readTrialBalance } from '../../sheets/readTrialBalance';
import { readStatement } from '../../statements/readStatement';
import { check } from '../../upkeep/check';
import { keepFile } from '../keptFiles';
import { queueLoad, showLoad } from '../loads';

let fresh: Fresh;
const HEADER = 'entry,line,date,account,debit,credit,description,dim:unit';
const CHART = [
  'code,name,type,parent,dim:unit',
  'A,All assets,asset,,',
  '100,Cash,asset,A,',
  '300,Retained earnings,equity,,',
  '400,Sales,income,,',
  '500,Wages,expense,,required',
];
const GOOD = [
  HEADER,
  'J1,1,2026-04-03,100,120.00,,Cash sale,',
  'J1,2,2026-04-03,400,,120.00,Cash sale,',
  'J2,1,2026-05-10,500,40.00,,Pay,U1',
  'J2,2,2026-05-10,100,,40.00,Pay,',
];

beforeAll(async () => {
  fresh = await freshInstallation();
  const calendar = { kind: 'monthly', start: '04', adjustmentPeriods: 1 } as const;
  for (const code of ['ONE', 'PPS']) {
    await addEntity(fresh.ctx, fresh.owner, {
      code,
      name: `Company ${code}`,
      currency: 'USD',
      calendar,
      yearEnd: code === 'ONE' ? 'derived' : 'booked',
      retainedEarnings: code === 'ONE' ? '300' : '3200',
    });
  }
  await load('dims', ['dimension,code,name,parent', 'unit,U,Units,', 'unit,U1,Unit one,U'], { kind: 'dimensions' });
  await load('chart', CHART, { kind: 'accounts', entity: 'ONE' });
  expect((await load('good', GOOD, { entity: 'ONE' })).status).toBe('loaded');
});
afterAll(() => fresh?.close());

async function load(
  name: string,
  content: string[] | Buffer,
  fields: {
    kind?: 'lines' | 'accounts' | 'dimensions';
    entity?: string;
    replaces?: string;
    unknownAccounts?: 'create';
  },
) {
  const text = Buffer.isBuffer(content) ? content : `${content.join('\n')}\n`;
  return sendFile(fresh, `${name.replace(/\W/g, '-')}.csv`, text, { kind: 'lines', format: 'csv', ...fields });
}

const balances = async (query: string) => {
  const answer = await readTrialBalance(
    fresh.ctx,
    fresh.owner,
    readQuery(trialBalanceShape, new URLSearchParams(query)),
  );
  return {
    rows: Object.fromEntries(answer.rows.map((r) => [r.account, r.closing])),
    totals: answer.totals,
    tie: answer.tie,
  };
};

describe('a broken file is refused whole, with row, column, value and a sentence, and no figure changes', () => {
  const line = (over: string): string[] => [HEADER, over, 'X1,2,2026-04-09,400,,10.00,x,'];
  const cases: [string, string[] | Buffer, { row: number | null; column: string | null; message: RegExp }][] = [
    [
      'unbalanced entry',
      line('X1,1,2026-04-09,100,10.01,,x,'),
      { row: 2, column: 'entry', message: /does not balance: debits exceed credits by 0\.01/ },
    ],
    [
      'unknown account',
      line('X1,1,2026-04-09,101,10.00,,x,'),
      { row: 2, column: 'account', message: /no account “101”; is it 100/ },
    ],
    ['heading account', line('X1,1,2026-04-09,A,10.00,,x,'), { row: 2, column: 'account', message: /is a heading/ }],
    [
      'impossible date',
      line('X1,1,2026-02-30,100,10.00,,x,'),
      { row: 2, column: 'date', message: /“2026-02-30” is no date/ },
    ],
    [
      'too many decimals',
      line('X1,1,2026-04-09,100,10.001,,x,'),
      { row: 2, column: 'debit', message: /3 decimals, the currency has 2/ },
    ],
    [
      'same line twice',
      [...line('X1,1,2026-04-09,100,10.00,,x,'), 'X1,2,2026-04-09,400,,0.00,x,'],
      { row: 4, column: 'line', message: /stands twice, first in row 3/ },
    ],
    [
      'same line twice in an entry of many lines',
      [
        HEADER,
        ...Array.from(
          { length: 140 },
          (_, i) => `X9,${Math.min(i + 1, 139)},2026-04-09,${i % 2 === 0 ? '100,1.00,' : '400,,1.00'},x,`,
        ),
      ],
      { row: 141, column: 'line', message: /line 139 of entry X9 stands twice, first in row 140/ },
    ],
    [
      'unknown member',
      line('X1,1,2026-04-09,500,10.00,,x,U2'),
      { row: 2, column: 'dim:unit', message: /no unit “U2”; is it U or U1/ },
    ],
    [
      'required member missing',
      line('X1,1,2026-04-09,500,10.00,,x,'),
      { row: 2, column: 'dim:unit', message: /needs a unit/ },
    ],
    ['ragged row', line('X1,1,2026-04-09,100,10.00'), { row: 2, column: null, message: /5 fields, the header has 8/ }],
    ['both sides', line('X1,1,2026-04-09,100,10.00,10.00,x,'), { row: 2, column: 'credit', message: /both sides/ }],
    [
      'beyond range',
      line('X1,1,2026-04-09,100,90071992547409.92,,x,'),
      { row: 2, column: 'debit', message: /beyond 2\^53/ },
    ],
    [
      'missing column',
      ['entry,line,date,account,debit,description', 'X1,1,2026-04-09,100,1.00,x'],
      { row: 1, column: 'credit', message: /needs the columns “debit” and “credit”, or “amount”/ },
    ],
    [
      'unknown column',
      [`${HEADER},colour`, 'X1,1,2026-04-09,100,1.00,,x,,red'],
      { row: 1, column: 'colour', message: /no column “colour”/ },
    ],
    [
      'open quote',
      [HEADER, 'X1,1,2026-04-09,100,"10.00,,x,'],
      { row: 2, column: null, message: /cannot be read as CSV/ },
    ],
    ['empty file', Buffer.alloc(0), { row: null, column: null, message: /empty/ }],
    ['header alone', [HEADER], { row: null, column: null, message: /no lines/ }],
    [
      'binary file',
      Buffer.from([0x50, 0x4b, 3, 4, 0, 0, 1, 2]),
      { row: null, column: null, message: /zip is damaged/ },
    ],
    ['entry already there', GOOD, { row: 2, column: 'entry', message: /there already, from load/ }],
  ];
  test.each(cases)('%s', async (name, content, problem) => {
    const before = await balances('entity=ONE&window=everything');
    const done = await load(name, content, { entity: 'ONE' });
    expect(done.status).toBe('refused');
    const found = done.problems.find((p) => problem.message.test(p.message));
    expect(found ?? done.problems).toMatchObject({ row: problem.row, column: problem.column });
    expect(await balances('entity=ONE&window=everything')).toEqual(before);
  });

  test('every problem is told, not the first only', async () => {
    const done = await load(
      'many',
      [
        HEADER,
        'X1,1,2026-04-99,100,1.00,,x,',
        'X1,2,2026-04-09,999,,1.00,x,',
        'X2,1,2026-04-09,100,5.00,,x,',
        'X2,2,2026-04-09,400,,4.00,x,',
      ],
      { entity: 'ONE' },
    );
    expect(done.problems.map((p) => [p.row, p.column])).toEqual([
      [2, 'date'],
      [3, 'account'],
      [4, 'entry'],
    ]);
  });
});

test('whatever a text holds, it is read back as it came, by the quick way and by the other', async () => {
  const texts = [
    'tab\there',
    'back\\slash \\N \\t',
    'two\nrows',
    'c:\\new',
    '\\.',
    'quo""te',
    'Ünï, “x”',
    "'apostrophe",
    "'=1+1",
  ];
  for (const [i, text] of texts.entries()) {
    const cell = `"${text}"`;
    const rows = [1, 2].map((n) => `W${i},${n},2026-06-0${n},${n === 1 ? '100,7.00,' : '400,,7.00'},${cell},`);
    expect((await load(`text-${i}`, [HEADER, ...rows], { entity: 'ONE' })).status).toBe('loaded');
    const { rows: read } = await readLines(fresh.ctx, fresh.owner, {
      ...readQuery(scopeShape, new URLSearchParams(`entity=ONE&entry=W${i}`)),
      limit: 10,
    });
    const expected = text.replaceAll('""', '"').replace(/^'=/, '=');
    expect(read.map((l) => l.description)).toEqual([expected, expected]);
  }
});

test('a restating load replaces whole periods, and older answers can be had again; a pin says by which lines it drifted', async () => {
  const subject = 'figure:entity=ONE&accounts=100&from=2027.01&to=2027.02';
  const kept = await pin(fresh.ctx, fresh.owner, { subject, measure: 'closing', address: '/', label: 'Cash' });
  expect(kept).toMatchObject({ value: '80.00', lines: 2, state: 'fresh' });

  const restated = [
    HEADER,
    'J2,1,2026-05-10,500,45.00,,Pay,U1',
    'J2,2,2026-05-10,100,,45.00,Pay,',
    'J3,1,2026-05-12,100,7.00,,Late sale,',
    'J3,2,2026-05-12,400,,7.00,Late sale,',
  ];
  const done = await load('restated', restated, { entity: 'ONE', replaces: '2027.02' });
  expect(done).toMatchObject({ status: 'loaded', lines: 4, replaced: 2 });

  const now = await showPin(fresh.ctx, fresh.owner, kept.id);
  expect(now).toMatchObject({ state: 'drifted', value: '80.00', now: '82.00', change: '2.00', driftTies: true });
  expect(now.drift.map((d) => [d.change, d.entry, d.line, d.effect, d.fields])).toEqual([
    ['changed', 'J2', 2, '-5.00', ['amount']],
    ['added', 'J3', 1, '7.00', []],
  ]);
  const scope = readQuery(scopeShape, new URLSearchParams('entity=ONE&accounts=100&from=2027.01&to=2027.02'));
  expect((await readTotals(fresh.ctx, fresh.owner, { ...scope, load: kept.load })).total.closing).toBe('80.00');
  expect((await readLines(fresh.ctx, fresh.owner, { ...scope, limit: 10 })).rows.map((r) => r.running)).toEqual([
    '120.00',
    '75.00',
    '82.00',
  ]);

  // The same content again is no drift.
  const same = await pin(fresh.ctx, fresh.owner, { subject, measure: 'closing', address: '/', label: 'Cash' });
  await load('restated-again', restated, { entity: 'ONE', replaces: '2027.02' });
  expect(await showPin(fresh.ctx, fresh.owner, same.id)).toMatchObject({ state: 'fresh', change: '0.00' });

  const outside = await load('outside', [HEADER, 'J9,1,2026-06-10,100,1.00,,x,', 'J9,2,2026-06-10,400,,1.00,x,'], {
    entity: 'ONE',
    replaces: '2027.02',
  });
  expect(outside.problems[0]?.message).toMatch(/outside the periods that this load replaces/);
  for await (const result of check(fresh.ctx)) expect(result).toMatchObject({ ok: true });
});

test('two loads at once do not mix, and one that a stopped server left in the middle is done again', async () => {
  const entry = (n: number): string[] => [
    HEADER,
    `T${n},1,2026-08-03,100,${n}.00,,Twin ${n},`,
    `T${n},2,2026-08-03,400,,${n}.00,Twin ${n},`,
  ];
  const [one, two] = await Promise.all([
    load('twin-1', entry(1), { entity: 'ONE' }),
    load('twin-2', entry(2), { entity: 'ONE' }),
  ]);
  expect([one.status, two.status, one.lines, two.lines]).toEqual(['loaded', 'loaded', 2, 2]);

  const path = join(fresh.env.JUST_THREAD_HOME as string, 'half.csv');
  writeFileSync(path, `${entry(3).join('\n')}\n`);
  const file = await keepFile(fresh.ctx, 'half.csv', createReadStream(path));
  const id = await queueLoad(fresh.ctx, fresh.owner, file, { kind: 'lines', format: 'csv', entity: 'ONE' });
  await fresh.ctx.work('load').where({ id }).update({ status: 'reading', progress: 0.4 });
  // It had laid a year apart, which nothing had attached yet.
  await fresh.ctx.work.raw('create table line_e1_2099 (like line)');
  const before = await balances('entity=ONE&window=everything');
  await runJobsHere(fresh.ctx);
  expect((await showLoad(fresh.ctx, fresh.owner, id)).status).toBe('loaded');
  const after = await balances('entity=ONE&window=everything');
  expect(Number(after.rows['100']) - Number(before.rows['100'])).toBe(3);
  expect(await fresh.ctx.work.schema.hasTable('line_e1_2099')).toBe(false);
  for await (const result of check(fresh.ctx)) expect(result).toMatchObject({ ok: true });
});

test('the Printing Plus cycle gives the published trial balances', async () => {
  await load('pps-chart', ['code,name,type', ...CYCLE_CHART], { kind: 'accounts', entity: 'PPS' });
  expect((await load('pps', cycleFile(CYCLE), { entity: 'PPS' })).status).toBe('loaded');

  const columns = async (kinds: string) => {
    const { rows: closing, tie } = await balances(`entity=PPS&from=2019-01-01&to=2019-01-31${kinds}`);
    expect(tie?.ok).toBe(true);
    const debits = Object.values(closing)
      .filter((c) => !c.startsWith('-'))
      .reduce((a, c) => a + Number(c), 0);
    return { closing, debits };
  };
  const unadjusted = await columns('&kind=normal');
  expect(unadjusted.debits).toBe(CYCLE_TOTALS.unadjusted);
  expect(unadjusted.closing).toMatchObject({ '1000': '24800.00', '4000': '-9500.00', '2200': '-4000.00' });
  const adjusted = await columns('&kind=normal&kind=adjustment');
  expect(adjusted.debits).toBe(CYCLE_TOTALS.adjusted);
  expect(adjusted.closing).toMatchObject({
    '4000': '-10100.00',
    '5300': '5100.00',
    '2200': '-3400.00',
    '1510': '-75.00',
  });
  const result = readQuery(
    scopeShape,
    new URLSearchParams(
      'entity=PPS&accounts=type income, type expense&from=2019-01-01&to=2019-01-31&kind=normal&kind=adjustment',
    ),
  );
  expect((await readTotals(fresh.ctx, fresh.owner, result)).total.movement).toBe('-4665.00');
  const closed = await columns('');
  expect(closed.closing).toMatchObject({ '3200': '-4565.00', '1000': '24800.00', '3100': '-20000.00' });
  expect(Object.keys(closed.closing).filter((c) => /^[45]|3300/.test(c) && closed.closing[c] !== '0.00')).toEqual([]);

  // The statements of the same cycle: service revenue 10,100 and net income 4,665 (from memory), closings left out.
  const statement = async (code: string) => {
    const read = await readStatement(
      fresh.ctx,
      fresh.owner,
      code,
      readQuery(statementShape, new URLSearchParams('entity=PPS&window=everything&open=all')),
    );
    expect(read.guards.filter((g) => !g.ok)).toEqual([]);
    return Object.fromEntries(read.rows.map((r) => [r.label, (r.values as Record<string, string | null>).window]));
  };
  expect(await statement('income')).toMatchObject({
    'Service revenue': '10100.00',
    'Total income': '10240.00',
    'Total expenses': '5575.00',
    Result: '4665.00',
  });
  const sheet = await statement('balance');
  expect(sheet['Total assets']).toBe(sheet['Total liabilities and equity']);
  expect(sheet).toMatchObject({ 'Retained earnings': '4565.00', 'Result of the year so far': '0.00' });
});
