import { createReadStream, createWriteStream, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import ExcelJS from 'exceljs';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { trialBalanceShape } from '@/contracts/questions';
import { readQuery, scopeShape } from '@/contracts/scope';
import { demoInstallation, type Fresh, freshInstallation } from '@/ops/fresh';
import { type ExportFormat, exportData } from '../exports/exportData';
import { runJobsHere } from '../jobs/runJob';
import { readTrialBalance } from '../sheets/readTrialBalance';
import { beginLedger } from './beginLedger';
import { confirmGuesses, openGuesses } from './guesses';
import { inspectFile } from './inspectFile';
import { keepFile } from './keptFiles';
import { showLoad } from './loads';
import { proposeLedger } from './proposeLedger';

// An empty installation: nothing is known but one file of lines of a company that nobody has heard of.

let fresh: Fresh;
beforeAll(async () => {
  fresh = await freshInstallation();
});
afterAll(() => fresh?.close());

async function proposed(path: string, name: string) {
  const { ctx, owner } = fresh;
  const file = await keepFile(ctx, name, createReadStream(path));
  const seen = await inspectFile(ctx, owner, file.digest, { kind: 'lines', unknownAccounts: 'create' });
  if (seen.unreadable !== null) throw new Error(seen.unreadable);
  expect(seen.missing).toEqual([]);
  return proposeLedger(ctx, { digest: file.digest, name, mapping: seen.mapping });
}

/** Makes the ledger as it was proposed, under a code of its own. @returns its trial balance over everything */
async function made(
  proposal: Awaited<ReturnType<typeof proposed>>,
  code: string,
  guesses: { key: string; says: string }[] = [],
) {
  const { ctx, owner } = fresh;
  const [company] = proposal.companies;
  const { loads } = await beginLedger(ctx, owner, {
    ...{ file: proposal.digest, name: `${code}.csv`, inFile: proposal.inFile, currency: proposal.currency.code },
    ...{ yearStart: proposal.yearStart.month, adjustments: proposal.adjustments, yearEnd: 'derived' },
    ...{ retained: proposal.retained, mapping: proposal.mapping, dimensions: proposal.dimensions, guesses },
    companies: [{ code, name: company?.name ?? code, inFile: company?.code }],
    accounts: proposal.accounts.map(({ code: account, name, type }) => ({ code: account, name, type })),
  });
  await runJobsHere(ctx);
  for (const id of loads) {
    const { status, problems, message } = await showLoad(ctx, owner, id);
    expect({ status, problems, message }).toMatchObject({ status: 'loaded', problems: [] });
  }
  const query = new URLSearchParams(`entity=${code}&window=everything&status=all&tree=no&zero=show`);
  return readTrialBalance(ctx, owner, readQuery(trialBalanceShape, query));
}

const closing = (tb: Awaited<ReturnType<typeof made>>) =>
  Object.fromEntries(tb.rows.map((r) => [r.account, `${r.type} ${r.closing}`]));

const GERMAN = [
  'Buchungsjournal der Nordlicht Werft',
  '',
  'Belegnr;Datum;Konto;Kontobezeichnung;Soll;Haben;Buchungstext;Abteilung',
  ...['W-1;01.10.2025;1200;Bank;5.000,00;;Einlage;', 'W-1;01.10.2025;2900;Gezeichnetes Kapital;;5.000,00;Einlage;'],
  ...Array.from({ length: 6 }, (_, i) => [
    `W-${i + 2};${10 + i}.1${i % 3}.2025;4120;Gehälter;1.${i}00,50;;Gehalt;${i % 2 ? 'Werft' : 'Büro'}`,
    `W-${i + 2};${10 + i}.1${i % 3}.2025;1200;Bank;;1.${i}00,50;Gehalt;`,
    `R-${i + 2};${20 + i}.1${i % 3}.2025;1400;Forderungen;2.000,00;;Rechnung;`,
    `R-${i + 2};${20 + i}.1${i % 3}.2025;8400;Umsatzerlöse;;2.000,00;Rechnung;${i % 2 ? 'Werft' : 'Büro'}`,
  ]).flat(),
  ...['W-99;30.09.2026;4980;Sonstiges;10,00;;Rest;', 'W-99;30.09.2026;1200;Bank;;10,00;Rest;'],
];

test('a delimited file of an unknown company: company, year, types and a dimension are proposed, and it stands there', async () => {
  const path = join(fresh.env.JUST_THREAD_HOME as string, 'Nordlicht Werft.csv');
  writeFileSync(path, Buffer.from(GERMAN.join('\r\n'), 'latin1'));
  const proposal = await proposed(path, 'Nordlicht Werft.csv');
  expect(proposal).toMatchObject({
    rows: 28,
    companies: [{ code: 'NORDLICHT-WE', name: 'Nordlicht Werft', taken: false }],
    currency: { code: 'EUR', why: 'nothing in the file tells' },
    yearStart: { month: 10, why: expect.stringMatching(/twelve months/) },
    retained: '2900',
    dimensions: [{ column: 'Abteilung', code: 'abteilung', members: ['Büro', 'Werft'] }],
  });
  expect(proposal.accounts.map((a) => `${a.code} ${a.type} ${a.why}`)).toEqual([
    ...['1200 asset name', '1400 asset name', '2900 equity name', '4120 expense name', '4980 expense sides'],
    '8400 income name',
  ]);
  const tb = await made(proposal, 'NLW', [
    { key: 'currency', says: 'The books are in EUR.' },
    { key: 'account 4980', says: '4980 is expense.' },
  ]);
  expect(closing(tb)).toMatchObject({
    '8400': 'income -12000.00',
    '4120': 'expense 7503.00',
    '1400': 'asset 12000.00',
  });
  expect(tb.rows.find((r) => r.account === '1200')?.name).toBe('Bank');
  expect(tb.totals.closing).toBe('0.00');
  // What was guessed waits to be confirmed, one by one or all at once, by whoever may load.
  const { ctx, owner } = fresh;
  expect((await openGuesses(ctx, owner)).rows.map((g) => g.key)).toEqual(['currency', 'account 4980']);
  await expect(confirmGuesses(ctx, { ...owner, role: 'reader' }, 'NLW', {})).rejects.toMatchObject({ status: 403 });
  await confirmGuesses(ctx, owner, 'NLW', { key: 'currency' });
  expect((await openGuesses(ctx, owner)).rows.map((g) => g.key)).toEqual(['account 4980']);
  await confirmGuesses(ctx, owner, 'NLW', {});
  expect((await openGuesses(ctx, owner)).rows).toEqual([]);
  await expect(confirmGuesses(ctx, owner, 'NLW', {})).rejects.toMatchObject({ status: 404 });
});

test('closing entries tell where the fiscal year ends, and books without an account of equity get one', async () => {
  const path = join(fresh.env.JUST_THREAD_HOME as string, 'closed.csv');
  const sold = (n: number) => [
    `S-${n},1,2026-0${n}-12,1000,100.00,,Sale`,
    `S-${n},2,2026-0${n}-12,40${n}0,,100.00,Sale`,
  ];
  const rows = [1, 2, 3].flatMap(sold);
  const close = [1, 2, 3].map((n) => `C-1,${n},2026-03-31,40${n}0,100.00,,Close`);
  writeFileSync(
    path,
    ['entry,line,date,account,debit,credit,description', ...rows, ...close, 'C-1,4,2026-03-31,1000,,300.00,Close'].join(
      '\n',
    ),
  );
  const proposal = await proposed(path, 'closed.csv');
  expect(proposal.yearStart).toMatchObject({
    month: 4,
    why: expect.stringMatching(/closed at the end of the month before/),
  });
  expect(proposal.retained).toBeNull();
  const tb = await made(proposal, 'CLO');
  expect(tb.rows.find((r) => r.account === 'RETAINED')).toMatchObject({ type: 'equity', name: 'Retained earnings' });
  await expect(made(proposal, 'CLO')).rejects.toMatchObject({ status: 409 });
});

describe('every format that is read begins a ledger too', () => {
  let demo: Fresh;
  beforeAll(async () => {
    demo = await demoInstallation();
  });
  afterAll(() => demo?.close());

  test.each(['csv', 'xlsx', 'json', 'ads', 'saft', 'fec'] as ExportFormat[])('%s', async (format) => {
    const scope = readQuery(scopeShape, new URLSearchParams('entity=NHS&from=2027.01&to=2027.02&status=posted'));
    const { stream, fileName } = await exportData(demo.ctx, demo.owner, { ...scope, what: 'lines', format });
    const path = join(fresh.env.JUST_THREAD_HOME as string, `other-${fileName}`);
    await pipeline(stream, createWriteStream(path));
    const proposal = await proposed(path, `other ${fileName}`);
    // Columns of dimensions that nobody has made yet are proposed as dimensions; an audit file brings its own.
    const dims = proposal.dimensions.map((d) => d.code);
    if (format === 'csv' || format === 'xlsx') expect(dims).toContain('costcentre');
    const tb = await made(proposal, `F-${format.toUpperCase()}`);
    const original = await readTrialBalance(
      demo.ctx,
      demo.owner,
      readQuery(
        trialBalanceShape,
        new URLSearchParams('entity=NHS&from=2027.01&to=2027.02&tree=no&zero=hide&compare=movement'),
      ),
    );
    const movements = (rows: typeof tb.rows) =>
      Object.fromEntries(rows.filter((r) => r.count > 0).map((r) => [r.account, r.movement]));
    expect(movements(tb.rows)).toEqual(movements(original.rows));
  });
});

test('a workbook with titles above its table is read as it stands', async () => {
  const path = join(fresh.env.JUST_THREAD_HOME as string, 'book.xlsx');
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet('Journal');
  sheet.addRow(['Journal of Kelp & Sons']);
  sheet.addRow(['Voucher', 'Date', 'Account', 'Account name', 'Amount', 'Text']);
  for (let i = 0; i < 4; i++) {
    sheet.addRow([`V${i}`, new Date(Date.UTC(2026, i, 9)), '1500', 'Trade debtors', 99.5, 'Sale']);
    sheet.addRow([`V${i}`, new Date(Date.UTC(2026, i, 9)), '3000', 'Sales', -99.5, 'Sale']);
  }
  await book.xlsx.writeFile(path);
  const proposal = await proposed(path, 'Kelp.xlsx');
  expect(closing(await made(proposal, 'KELP'))).toMatchObject({ '1500': 'asset 398.00', '3000': 'income -398.00' });
});
