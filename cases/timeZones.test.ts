import { spawnSync } from 'node:child_process';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { demoInstallation, type Fresh } from '@/ops/fresh';

// Days are days of the books, wherever the machine is: west of the date line, east of it, or at Greenwich.

let fresh: Fresh;
beforeAll(async () => {
  fresh = await demoInstallation();
});
afterAll(() => fresh?.close());

/** What a process in a time zone answers: some sheets, and a workbook's cells read back. */
const SCRIPT = `
  const { context, closeContext } = await import('@/cases/asking/context');
  const { ownerOf } = await import('@/cases/people/signIn');
  const { readLines } = await import('@/cases/sheets/readLines');
  const { readSheet } = await import('@/cases/sheets/readSheet');
  const { readTrialBalance } = await import('@/cases/sheets/readTrialBalance');
  const { exportData } = await import('@/cases/exports/exportData');
  const { linesShape, sheetShape, trialBalanceShape } = await import('@/contracts/questions');
  const { readQuery, scopeShape } = await import('@/contracts/scope');
  const { default: ExcelJS } = await import('exceljs');
  const ctx = context();
  const owner = await ownerOf(ctx.work);
  const q = (shape, text) => readQuery(shape, new URLSearchParams(text));
  const answers = [
    await readTrialBalance(ctx, owner, q(trialBalanceShape, 'entity=KSF&to=2026-09-17')),
    await readSheet(ctx, owner, q(sheetShape, 'entity=KSF&accounts=41*&from=2026-03-28&to=2026-04-03&by=day')),
    await readSheet(ctx, owner, q(sheetShape, 'entity=KSF&accounts=63*&from=2027.01&to=2027.06&by=week')),
    await readLines(ctx, owner, q(linesShape, 'entity=KSF&accounts=6310&from=2026-04-01&to=2026-04-30&limit=40')),
  ];
  const { stream } = await exportData(ctx, owner, { ...q(scopeShape, 'entity=KSF&accounts=6310&from=2027.01&to=2027.01'), what: 'lines', format: 'xlsx' });
  const book = new ExcelJS.Workbook();
  await book.xlsx.read(stream);
  const cells = [];
  book.worksheets[0].eachRow((row) => cells.push(row.values.map((v) => (v instanceof Date ? v.toISOString() : v))));
  process.stdout.write(JSON.stringify([answers, cells]));
  await closeContext(ctx);
  process.exit(0);`;

test('answers and the dates in a workbook are the same in every time zone', () => {
  const [first, ...others] = ['UTC', 'Pacific/Kiritimati', 'America/Adak'].map((zone) => {
    const done = spawnSync('node', ['--import', 'tsx', '--input-type=module', '-e', SCRIPT], {
      env: { ...fresh.env, TZ: zone },
      encoding: 'utf8',
      maxBuffer: 64 * 1024 ** 2,
    });
    expect([zone, done.status, done.stderr.slice(0, 500)]).toEqual([zone, 0, '']);
    return done.stdout;
  });
  expect(first?.length).toBeGreaterThan(10_000);
  for (const other of others) expect(other).toBe(first);
});
