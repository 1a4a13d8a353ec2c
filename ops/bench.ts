import { createReadStream, statSync } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import type { PoolClient } from 'pg';
import { from as copyFrom } from 'pg-copy-streams';
import { addEntity } from '@/cases/charts/entities';
import { runJobsHere } from '@/cases/jobs/runJob';
import { keepFile } from '@/cases/loads/keptFiles';
import { loadFile, runLoadsUpTo } from '@/cases/loads/loading/runLoads';
import { queueLoad, showLoad } from '@/cases/loads/loads';
import { addPerson } from '@/cases/people/people';
import { ownerOf } from '@/cases/people/signIn';
import { readMarks } from '@/cases/sheets/marks';
import { readLines } from '@/cases/sheets/readLines';
import { readOtherSide } from '@/cases/sheets/readOtherSide';
import { readOverTime } from '@/cases/sheets/readOverTime';
import { readSheet } from '@/cases/sheets/readSheet';
import { readTrialBalance } from '@/cases/sheets/readTrialBalance';
import { readWhatMoved } from '@/cases/sheets/readWhatMoved';
import { readStatement } from '@/cases/statements/readStatement';
import { check } from '@/cases/upkeep/check';
import {
  linesShape,
  marksShape,
  overTimeShape,
  sheetShape,
  statementShape,
  trialBalanceShape,
  whatMovedShape,
} from '@/contracts/questions';
import { readQuery, scopeShape } from '@/contracts/scope';
import { COLUMNS } from '@/demo/entry';
import { writeDemoFiles } from '@/demo/files';
import { ENTITIES } from '@/demo/seed';
import { connectForWork, rowsOf } from '@/store/db';
import { openInstallation, temporaryHome } from './installation';

/** Frees what is no longer used, now rather than when the machine gets around to it. */
function collectGarbage(): void {
  setFlagsFromString('--expose-gc');
  (runInNewContext('gc') as () => void)();
}

/** Lines of the demo world that its scale does not multiply, and those that it does. */
const FIXED_LINES = 45_500;
const SCALED_LINES = 48_800;
const ROUNDS = 15;

/**
 * Generates a ledger of about N lines, loads it beside a bare COPY of the same file, and measures the main questions
 * beside plain PostgreSQL and DuckDB over the same lines. Everything is warm, one client; medians of 15.
 */
export async function bench(lines: number, say: (text: string) => void): Promise<void> {
  if (!Number.isInteger(lines) || lines < 1) throw new Error('--lines takes a whole number');
  const home = temporaryHome('bench');
  const installation = await openInstallation({
    ...process.env,
    JUST_THREAD_HOME: home,
    JUST_THREAD_TODAY: '2026-10-05',
  });
  const { ctx } = installation;
  try {
    const scale = Math.max(1, Math.round((lines - FIXED_LINES) / SCALED_LINES));
    say(`Generating about ${lines.toLocaleString('en')} lines …`);
    const files = await writeDemoFiles(home, scale);
    await addPerson(ctx, null, {
      email: 'bench@bench.example',
      name: 'Bench',
      role: 'owner',
      password: 'rain on the slipway',
      entities: null,
    });
    const owner = await ownerOf(ctx.work);
    for (const entity of ENTITIES) {
      await addEntity(ctx, owner, {
        ...entity,
        calendar: { kind: 'monthly', start: '04', adjustmentPeriods: 1 },
        yearEnd: 'derived',
        retainedEarnings: '3120',
      });
    }
    await loadFile(ctx, owner, files.dimensions, { kind: 'dimensions', format: 'csv' });
    for (const { code } of ENTITIES)
      await loadFile(ctx, owner, files.chart, { kind: 'accounts', format: 'csv', entity: code });

    say('Bare COPY …');
    // A checkpoint is for whoever owns the server.
    const admin = connectForWork(installation.server?.url ?? installation.env.JUST_THREAD_WORK_URL ?? '');
    const bare = await bareCopy(admin, files.lines).finally(() => admin.destroy());
    say('Loading with checks, summaries and indexes …');
    const keeping = performance.now();
    const kept = await keepFile(ctx, 'journal-lines.csv', createReadStream(files.lines));
    say(`keeping the file by its SHA-256 took ${((performance.now() - keeping) / 1000).toFixed(1)} s`);
    collectGarbage(); // what generating the file left behind is not the load's
    const before = process.memoryUsage().rss;
    const started = performance.now();
    let peak = 0;
    const watch = setInterval(() => (peak = Math.max(peak, process.memoryUsage().rss)), 200);
    const id = await queueLoad(ctx, owner, kept, { kind: 'lines', format: 'csv' });
    await runLoadsUpTo(ctx, id);
    const load = await showLoad(ctx, owner, id);
    clearInterval(watch);
    if (load.status !== 'loaded') throw new Error(load.message ?? 'the load was refused');
    const seconds = (performance.now() - started) / 1000;
    const rate = load.lines / seconds;
    say(`\n${load.lines.toLocaleString('en')} lines, ${(statSync(files.lines).size / 1024 ** 2).toFixed(0)} MB`);
    say(
      `load       ${Math.round(rate).toLocaleString('en')} lines/s, ${seconds.toFixed(1)} s, peak memory ${Math.round(peak / 1024 ** 2)} MB (${Math.round(before / 1024 ** 2)} MB before)`,
    );
    say(
      `bare COPY  ${Math.round(bare).toLocaleString('en')} lines/s; the load is ${((100 * rate) / bare).toFixed(0)} % of it\n`,
    );

    const sealing = performance.now();
    await runJobsHere(ctx);
    say(`its digest, made right after it by a job of its own: ${((performance.now() - sealing) / 1000).toFixed(1)} s`);
    const checking = performance.now();
    const faults: string[] = [];
    for await (const { what, ok, detail, ms } of check(ctx)) {
      if (!ok) faults.push(`${what}: ${detail}`);
      if (ms > 1_000) say(`  check of ${what}: ${(ms / 1000).toFixed(1)} s, ${detail}`);
    }
    say(
      `check of everything: ${((performance.now() - checking) / 1000).toFixed(1)} s, ${faults.length === 0 ? 'all holds' : faults.join('; ')}\n`,
    );

    const duck = await duckOver(files.lines, files.chart);
    const year = '&from=2027.01&to=2027.06';
    const tb = (extra: string) => () =>
      readTrialBalance(ctx, owner, readQuery(trialBalanceShape, new URLSearchParams(`entity=KSF${extra}`)));
    const page = (extra: string) => () =>
      readLines(
        ctx,
        owner,
        readQuery(linesShape, new URLSearchParams(`entity=KSF&accounts=1510&window=everything${extra}`)),
      );
    const statement = (code: string, extra: string) => () =>
      readStatement(ctx, owner, code, readQuery(statementShape, new URLSearchParams(`entity=KSF${extra}`)));
    const sheet = (extra: string) => () =>
      readSheet(ctx, owner, readQuery(sheetShape, new URLSearchParams(`entity=KSF${year}&${extra}`)));
    const asked = (extra: string) => new URLSearchParams(`entity=KSF${year}&${extra}`);
    const first = (await page('')()) as { totals: { count: number } };
    const middle = Math.floor(first.totals.count / 2);
    const questions: [string, () => Promise<unknown>, string | null, string | null][] = [
      ['trial balance, period 6', tb('&from=2027.06&to=2027.06'), PLAIN_TB(''), DUCK_TB('')],
      ['trial balance as at 17 Sep 2026', tb('&to=2026-09-17'), null, null],
      [
        'trial balance of one vessel',
        tb(`${year}&dim.vessel=TERN`),
        PLAIN_TB('TERN'),
        DUCK_TB(`and "dim:vessel" = 'TERN'`),
      ],
      [
        'split by vessel',
        () =>
          readSheet(
            ctx,
            owner,
            readQuery(sheetShape, new URLSearchParams(`entity=KSF&accounts=4*${year}&by=dim:vessel/FLEET`)),
          ),
        null,
        null,
      ],
      [
        'income statement, six columns',
        statement(
          'income',
          `${year}&column=year-before&column=change:year-before&column=share&column=ytd&column=last-year`,
        ),
        null,
        null,
      ],
      ['income statement, rows opened', statement('income', `${year}&open=all`), null, null],
      ['balance sheet', statement('balance', year), null, null],
      ['income statement, vessels across', statement('income', `${year}&across=dim:vessel`), null, null],
      ['crosstab, vessels by period', sheet('accounts=6*&by=dim:vessel/FLEET&across=period'), null, null],
      [
        'crosstab, one column open by week',
        sheet('accounts=6*&by=dim:vessel/FLEET&across=period&open=2027.04|week'),
        null,
        null,
      ],
      ['nested, cost centres by account', sheet('accounts=7*&by=dim:costcentre&by=account'), null, null],
      [
        'cost centres beside a year before and its change',
        sheet('accounts=7*&by=dim:costcentre&column=year-before&column=change:year-before'),
        null,
        null,
      ],
      [
        'periods beside those of a year before',
        sheet('accounts=6*&by=period&column=year-before&column=change%:year-before'),
        null,
        null,
      ],
      [
        'cost centres with quantity and per unit (lines)',
        sheet('accounts=7110&by=dim:costcentre&column=quantity&column=per-unit'),
        null,
        null,
      ],
      // Every kind of split; of what sums do not know lines are read one by one.
      ...[...OF_SUMS, ...OF_LINES].map((by): (typeof questions)[number] => [
        `split by ${by}, one account${OF_LINES.includes(by) ? ' (lines)' : ''}`,
        sheet(`accounts=6310&by=${by}`),
        null,
        null,
      ]),
      ['split by who posted, the largest account (long)', sheet('accounts=1510&by=postedBy&heavy=run'), null, null],
      ['split by who posted, the whole ledger (long)', sheet('by=postedBy&heavy=run'), null, null],
      [
        'what moved, one account',
        () => readWhatMoved(ctx, owner, readQuery(whatMovedShape, asked('accounts=6310'))),
        null,
        null,
      ],
      [
        'over time, all income',
        () => readOverTime(ctx, owner, readQuery(overTimeShape, asked('accounts=4*'))),
        null,
        null,
      ],
      [
        'other side, one account and month',
        () =>
          readOtherSide(
            ctx,
            owner,
            readQuery(scopeShape, new URLSearchParams('entity=KSF&accounts=6310&from=2027.06&to=2027.06')),
          ),
        null,
        null,
      ],
      [
        'what stands out, income statement',
        () => readMarks(ctx, owner, readQuery(marksShape, asked('statement=income'))),
        null,
        null,
      ],
      ['ledger page, first', page(''), null, null],
      [`ledger page, row ${middle.toLocaleString('en')}`, page(`&at=${middle}`), null, DUCK_PAGE(middle)],
    ];
    say(`${'question'.padEnd(50)}     here   p95 | plain SQL |  DuckDB   (ms)`);
    for (const [name, ask, plain, duckSql] of questions) {
      const mine = await timed(ask, name.endsWith('(long)') ? 3 : ROUNDS);
      const sql = plain === null ? null : await timed(() => rowsOf(ctx.work, plain), 3);
      const other = duckSql === null ? null : await timed(() => duck(duckSql), 5);
      const cell = (t: { median: number } | null): string => (t === null ? '–' : t.median.toFixed(0)).padStart(9);
      say(
        `${name.padEnd(50)} ${mine.median.toFixed(0).padStart(8)} ${mine.p95.toFixed(0).padStart(5)} | ${cell(sql)} | ${cell(other)}`,
      );
    }
    const daily = [
      'trial balance, period 6',
      'income statement, six columns',
      'balance sheet',
      'split by vessel',
      'ledger page, first',
    ];
    for (const pause of [0, PAUSE_MS]) {
      const many = await together(
        READERS,
        questions.filter(([name]) => daily.includes(name)).map(([, ask]) => ask),
        pause,
      );
      const who = pause === 0 ? 'who never pause' : `who look at each answer for about ${pause / 1000} s`;
      say(
        `\n${READERS} readers ${who}, ${daily.length} daily questions: ${many.perSecond.toFixed(0)} answers a second, median ${many.median.toFixed(0)}, p95 ${many.p95.toFixed(0)}`,
      );
    }
  } finally {
    await installation.destroy();
  }
}

/** Rows a second of COPY into an unindexed, logged table of the same columns as text. */
async function bareCopy(db: Parameters<typeof rowsOf>[0], path: string): Promise<number> {
  const columns = COLUMNS.map((_, i) => `c${i} text`).join(', ');
  await db.raw(`create table bare_copy (${columns})`);
  const client = (
    db as unknown as {
      client: { acquireConnection(): Promise<PoolClient>; releaseConnection(c: PoolClient): Promise<void> };
    }
  ).client;
  const connection = await client.acquireConnection();
  const started = performance.now();
  const stream = connection.query(copyFrom('copy bare_copy from stdin with (format csv, header true)'));
  await pipeline(createReadStream(path), stream);
  const seconds = (performance.now() - started) / 1000;
  await client.releaseConnection(connection);
  const [row] = await rowsOf<{ n: number }>(db, 'select count(*)::integer as n from bare_copy');
  await db.raw('drop table bare_copy');
  await db.raw('checkpoint'); // what it left to be written is not the next measurement's
  return (row?.n ?? 0) / seconds;
}

async function duckOver(lines: string, chart: string): Promise<(sql: string) => Promise<unknown>> {
  const { DuckDBInstance } = await import('@duckdb/node-api');
  const connection = await (await DuckDBInstance.create(':memory:')).connect();
  await connection.run(`create table accounts as select code, type from read_csv('${chart}', all_varchar = true)`);
  await connection.run(`create table lines as select entity, account, cast(date as date) as date, entry, cast(line as integer) as line, "dim:vessel",
    cast(round((coalesce(cast(debit as decimal(18, 2)), 0) - coalesce(cast(credit as decimal(18, 2)), 0)) * 100) as bigint) as amount
    from read_csv('${lines}', all_varchar = true)`);
  return async (sql) => (await connection.runAndReadAll(sql)).getRowsJson();
}

const DUCK_TB = (where: string): string => `select account,
    sum(case when date < date '2026-09-01' then amount else 0 end), sum(case when date >= date '2026-09-01' and amount > 0 then amount else 0 end),
    sum(case when date >= date '2026-09-01' and amount < 0 then amount else 0 end), sum(amount)
  from lines join accounts on code = account
  where entity = 'KSF' and date <= date '2026-09-30' and (type not in ('income', 'expense') or date >= date '2026-04-01') ${where} group by account`;

const DUCK_PAGE = (row: number): string => `select *, sum(amount) over (order by date, entry, line) as running
  from lines where entity = 'KSF' and account = '1510' order by date, entry, line limit 200 offset ${row}`;

const PLAIN_TB = (vessel: string): string => `select l.account,
    sum(case when period < 2706 then amount else 0 end), sum(case when period = 2706 and side = 1 then amount else 0 end),
    sum(case when period = 2706 and side = -1 then amount else 0 end), sum(amount)
  from line l join account a on a.id = l.account
  where l.entity = 1 and period <= 2706 and l.status = 1 and replaced_by = 2147483647 and (not a.temporary or period > 2700)
    ${vessel ? `and d2 = (select m.id from member m join dimension d on d.id = m.dimension where d.code = 'vessel' and m.code = '${vessel}')` : ''}
  group by l.account`;

const OF_SUMS = [
  'account',
  'account/2',
  'type',
  'entity',
  'period',
  'kind',
  'month',
  'week',
  'day',
  'dim:vessel',
  'dim:vessel/FLEET',
  'dim:costcentre@2',
  'dim:project',
  'dim:fund',
];
const OF_LINES = [
  'journal',
  'counterparty',
  'postedBy',
  'source',
  'document',
  'documentType',
  'entry',
  'size',
  'currency',
  'unit',
  'taxCode',
  'dueDate',
  'documentDate',
  'enteredAt',
  'approvedBy',
  'description',
  'entryDescription',
];

const READERS = 20;
const TOGETHER_MS = 15_000;
/** A short look at an answer before the next question. */
const PAUSE_MS = 1_000;

/** Readers who ask one question after the other, each in an order of their own and looking at each answer for half to one and a half pauses. Milliseconds. */
async function together(
  readers: number,
  questions: readonly (() => Promise<unknown>)[],
  pause: number,
): Promise<{ median: number; p95: number; perSecond: number }> {
  const times: number[] = [];
  const until = performance.now() + TOGETHER_MS;
  const reader = async (at: number): Promise<void> => {
    for (let i = at; performance.now() < until; i++) {
      const started = performance.now();
      await questions[i % questions.length]?.();
      times.push(performance.now() - started);
      if (pause > 0) await new Promise((resolve) => setTimeout(resolve, pause * (0.5 + Math.random())));
    }
  };
  await Promise.all(Array.from({ length: readers }, (_, i) => reader(i)));
  return { ...quantiles(times), perSecond: (times.length * 1_000) / TOGETHER_MS };
}

function quantiles(times: number[]): { median: number; p95: number } {
  const sorted = [...times].sort((a, b) => a - b);
  return {
    median: sorted[Math.floor(sorted.length / 2)] as number,
    p95: sorted[Math.min(sorted.length - 1, Math.ceil(sorted.length * 0.95) - 1)] as number,
  };
}

async function timed(ask: () => Promise<unknown>, rounds: number): Promise<{ median: number; p95: number }> {
  await ask();
  const times: number[] = [];
  for (let i = 0; i < rounds; i++) {
    const started = performance.now();
    await ask();
    times.push(performance.now() - started);
  }
  return quantiles(times);
}
