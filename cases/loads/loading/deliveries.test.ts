import { spawnSync } from 'node:child_process';
import { createReadStream, createWriteStream, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { ZipArchive } from 'archiver';
import ExcelJS from 'exceljs';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { sourceLinkSchema } from '@/contracts/bodies/all';
import { trialBalanceShape } from '@/contracts/questions';
import { readQuery, scopeShape } from '@/contracts/scope';
import { demoFeedDay } from '@/demo/feed';
import { FileShelf } from '@/exchange/fileShelf';
import { type Fresh, freshInstallation, sendFile } from '@/ops/fresh';
import { type LedgerFeed, startLedgerFeed } from '@/standins/ledgerFeed';
import { rowsOf } from '@/store/db';
import { nameAccount, readAccounts } from '../../charts/accounts';
import { readCalendars } from '../../charts/calendars';
import { readDimensions } from '../../charts/dimensions';
import { addEntity } from '../../charts/entities';
import { keepHolding, readHoldings } from '../../charts/holdings';
import { readSourceLinks, setSourceLink } from '../../charts/sourceLinks';
import { readAttachment, readDocument } from '../../documents/readDocument';
import { writeNote } from '../../evidence/notes';
import { pin } from '../../evidence/pins';
import { runJobsHere } from '../../jobs/runJob';
import { readEntry } from '../../sheets/readEntry';
import { readTrialBalance } from '../../sheets/readTrialBalance';
import { compareLoads } from '../compareLoads';
import { addConnection, askPull, showConnections } from '../connections';
import { inspectFile } from '../inspectFile';
import { keepFile } from '../keptFiles';
import { cancelLoad, problemsTable, queueLoad, showLoad } from '../loads';
import { proveLoad } from '../proveLoad';
import { loadFile } from './runLoads';

let fresh: Fresh;
let feed: LedgerFeed;
const HEADER = 'entry,line,date,account,debit,credit,description,journal,dim:vessel';
const CHART = [
  'code,name,type,parent,name:nb,created_by,created_at,dim:vessel',
  'A,Assets,asset,,Eiendeler,,,',
  '1510,Bank,asset,A,Bank,ines,2026-01-05,',
  '1512,Cash on board,asset,A,,tomas,2026-09-01,',
  '3120,Retained,equity,,Opptjent,,,',
  '4110,Foot passengers,income,,Passasjerer,,,',
  '4112,Cars,income,,Biler,,,',
  '4120,Café sales,income,,Kafé,,,',
  '4121,Sales of café,income,,Kafésalg,,,',
  '8213,Card charges,expense,,Kortgebyr,,,',
];

beforeAll(async () => {
  fresh = await freshInstallation();
  feed = await startLedgerFeed(demoFeedDay);
  const calendar = { kind: 'monthly', start: '04', adjustmentPeriods: 1 } as const;
  for (const code of ['KSF', 'NEW']) {
    await addEntity(fresh.ctx, fresh.owner, {
      code,
      name: `Company ${code}`,
      currency: 'GBP',
      calendar,
      yearEnd: 'derived',
      retainedEarnings: '3120',
    });
  }
  const dims = [
    'dimension,code,name,parent',
    'costcentre,COM-TKT,Ticketing,',
    'vessel,FLEET,Fleet,',
    ...['MAREN', 'SOLAN', 'TERN', 'SKUA', 'PETREL', 'GANNET', 'FULMAR'].map((v) => `vessel,${v},${v},FLEET`),
    ...Array.from({ length: 9 }, (_, i) => `route,R${i + 1},Route ${i + 1},`),
  ];
  await load('dims.csv', dims, { kind: 'dimensions' });
  for (const entity of ['KSF', 'NEW']) await load('chart.csv', CHART, { kind: 'accounts', entity });
});
afterAll(async () => {
  await feed?.close();
  await fresh?.close();
});

type Fields = Partial<Parameters<typeof loadFile>[3]>;
const load = (name: string, content: string[], fields: Fields) =>
  sendFile(fresh, name, `${content.join('\n')}\n`, { kind: 'lines', ...fields });
const scope = (query: string) => readQuery(scopeShape, new URLSearchParams(query));
const closing = async (query: string): Promise<Record<string, string>> => {
  const answer = await readTrialBalance(
    fresh.ctx,
    fresh.owner,
    readQuery(trialBalanceShape, new URLSearchParams(query)),
  );
  return Object.fromEntries(answer.rows.map((r) => [r.account, r.closing]));
};
const entry = (no: string, date: string, account: string, amount: string, vessel = '', text = 'Fares'): string[] => [
  `${no},1,${date},1510,${amount},,${text},TS,`,
  `${no},2,${date},${account},,${amount},${text},TS,${vessel}`,
];

test('two loads are compared line by line, with sums, fields, and the evidence that they touch; completeness names gaps', async () => {
  const first = await load(
    'first.csv',
    [
      HEADER,
      ...entry('T-1', '2026-04-03', '4110', '10.00', 'TERN'),
      ...entry('T-2', '2026-04-04', '4112', '20.00'),
      ...entry('T-5', '2026-05-04', '4110', '5.00'),
    ],
    {
      entity: 'KSF',
    },
  );
  expect(await proveLoad(fresh.ctx, fresh.owner, first.id)).toMatchObject({
    reach: [{ first: '2026-04-03', last: '2026-05-04', lines: 6, debit: '35.00', credit: '35.00', balances: true }],
    series: [{ journal: 'TS', first: 'T-1', last: 'T-5', entries: 3, missing: 2 }],
    gaps: [{ from: 'T-3', to: 'T-4', count: 2 }],
    continuity: { periods: 2, ok: true },
  });
  const kept = await pin(fresh.ctx, fresh.owner, {
    subject: 'figure:entity=KSF&accounts=4110&from=2027.01&to=2027.01',
    measure: 'closing',
    address: '/',
    label: 'Foot',
  });
  await pin(fresh.ctx, fresh.owner, {
    subject: 'figure:entity=KSF&accounts=8213&from=2027.01&to=2027.02',
    measure: 'movement',
    address: '/',
    label: 'Charges',
  });
  const note = { subject: 'line:KSF/T-2/1', measure: null, address: '/', label: 'T-2 line 1', body: 'Is this right?' };
  await writeNote(fresh.ctx, fresh.owner, note);
  const second = await load(
    'second.csv',
    [
      HEADER,
      ...entry('T-1', '2026-04-03', '4110', '12.00', 'MAREN'),
      ...entry('T-2', '2026-04-04', '4112', '20.00'),
      ...entry('T-3', '2026-04-05', '4120', '1.00'),
    ],
    { entity: 'KSF', replaces: '2027.01' },
  );
  expect(second).toMatchObject({ status: 'loaded', replaced: 4 });
  const seen = await compareLoads(fresh.ctx, fresh.owner, { from: first.id, to: second.id, limit: 100, at: 0 });
  expect(seen.counts).toEqual({ added: 2, changed: 2, removed: 0 });
  expect(
    seen.lines.map((l) => [
      l.change,
      l.entry,
      l.line,
      l.fields.map((f) => `${f.field}: ${f.from} → ${f.to}`).join('; '),
    ]),
  ).toEqual([
    ['changed', 'T-1', 1, 'amount: 10.00 → 12.00'],
    ['changed', 'T-1', 2, 'amount: -10.00 → -12.00; dims: [["vessel","TERN"]] → [["vessel","MAREN"]]'],
    ['added', 'T-3', 1, ''],
    ['added', 'T-3', 2, ''],
  ]);
  expect(seen.accounts.map((a) => [a.account, a.change])).toEqual([
    ['1510', '3.00'],
    ['4110', '-2.00'],
    ['4120', '-1.00'],
  ]);
  expect(seen.touched.pins.map((p) => p.id)).toEqual([kept.id]);
  expect(seen.touched.notes).toEqual([]);
  expect(await closing(`entity=KSF&from=2027.01&to=2027.01&load=${first.id}`)).toMatchObject({ 4110: '-10.00' });
});

test('a trial balance becomes openings where there are no lines, and a check where there are', async () => {
  const balances = [
    'account,debit,credit,period',
    '1510,100.00,,2026.12',
    '3120,,60.00,2026.12',
    '4110,,40.00,2026.12',
  ];
  expect(
    await load('off.csv', [...balances, '8213,1.00,,2026.12'], { entity: 'NEW', kind: 'trial-balance' }),
  ).toMatchObject({
    status: 'refused',
    problems: [{ message: 'the balances of NEW at 2026.12 do not balance: debits exceed credits by 1.00' }],
  });
  expect(await load('openings.csv', balances, { entity: 'NEW', kind: 'trial-balance' })).toMatchObject({
    status: 'loaded',
    entries: 1,
  });
  // The result of the year before is rolled into retained earnings, as at any year end.
  expect(await closing('entity=NEW&from=2027.01&to=2027.01')).toEqual({ 1510: '100.00', 3120: '-100.00' });
  const checked = await load('check.csv', ['account,closing,period', '1510,100.00,2027.01', '3120,-99.00,2027.01'], {
    entity: 'NEW',
    kind: 'trial-balance',
  });
  expect(checked.stated?.map((s) => [s.account, s.stated, s.found, s.ok])).toEqual([
    ['3120', '-99.00', '-100.00', false],
    ['1510', '100.00', '100.00', true],
  ]);
});

test('budgets, commitments, rates: read, checked, and replaced by the next delivery as each kind is', async () => {
  const sums = (table: string) =>
    rowsOf<{ n: number; live: number }>(
      fresh.ctx.work,
      `select count(*)::integer as n, (count(*) filter (where replaced_by = 2147483647))::integer as live from ${table}`,
    );
  const budget = [
    'version,account,period,amount,dim:vessel',
    'B1,4110,2027.01,-500.00,TERN',
    'B1,4110,2027.02,-510.00,',
  ];
  expect(await load('budget.csv', budget, { entity: 'KSF', kind: 'budgets' })).toMatchObject({
    status: 'loaded',
    lines: 2,
  });
  expect(await load('budget2.csv', budget.slice(0, 2), { entity: 'KSF', kind: 'budgets' })).toMatchObject({
    status: 'loaded',
    replaced: 1,
  });
  expect(await sums('budget')).toEqual([{ n: 3, live: 2 }]);
  const orders = [
    'number,date,due_date,account,amount,ordered,counterparty',
    'PO-1,2026-09-01,2026-11-01,8213,40.00,100.00,S1',
    'PO-2,2026-09-02,,8213,5.00,5.00,S1',
  ];
  expect(await load('orders.csv', orders, { entity: 'KSF', kind: 'commitments' })).toMatchObject({
    status: 'loaded',
    lines: 2,
  });
  expect(await load('orders2.csv', orders.slice(0, 2), { entity: 'KSF', kind: 'commitments' })).toMatchObject({
    replaced: 2,
  });
  const rates = ['date,from,to,rate,kind', '2026-09-30,NOK,GBP,0.0742,closing', '2026-09-30,NOK,GBP,0.0751,average'];
  expect(await load('rates.csv', rates, { kind: 'rates' })).toMatchObject({ status: 'loaded', lines: 2 });
  const broken = ['date,from,to,rate', '2026-09-30,NOK,NOK,0', '2026-09-31,XXXX,GBP,1.1'];
  expect((await load('broken.csv', broken, { kind: 'rates' })).problems.map((p) => [p.row, p.column])).toEqual([
    [2, 'rate'],
    [2, 'to'],
    [3, 'date'],
    [3, 'from'],
  ]);
});

test('documents come with their chain and their files, and each event leaves an open balance', async () => {
  const table = [
    'number,type,date,due_date,amount,counterparty,counterparty_name,source,applied,applied_date,attachment',
    'O-1,order,2026-04-01,,100.00,S1,Slip AS,,,,',
    'I-1,invoice,2026-05-01,2026-05-31,80.00,S1,Slip AS,O-1,80.00,,invoice.pdf',
    'P-1,payment,2026-05-20,,30.00,S1,Slip AS,I-1,30.00,,',
    'P-2,payment,2026-06-20,,50.00,S1,Slip AS,I-1,50.00,2026-06-21,',
  ].join('\n');
  const path = join(fresh.env.JUST_THREAD_HOME as string, 'documents.zip');
  const archive = new ZipArchive({});
  const written = pipeline(archive, createWriteStream(path));
  archive.append(table, { name: 'documents.csv' });
  archive.append('%PDF-1.4 made up', { name: 'files/invoice.pdf' });
  await archive.finalize();
  await written;
  expect(await loadFile(fresh.ctx, fresh.owner, path, { kind: 'documents', entity: 'KSF' })).toMatchObject({
    status: 'loaded',
    lines: 4,
    problems: [],
  });
  const invoice = await readDocument(fresh.ctx, fresh.owner, 'I-1', {});
  expect(invoice.events.map((e) => [e.document, e.open])).toEqual([
    ['I-1', '80.00'],
    ['P-1', '50.00'],
    ['P-2', '0.00'],
  ]);
  expect(invoice.chain.documents.map((d) => d.number)).toEqual(['O-1', 'I-1', 'P-1', 'P-2']);
  expect((await readDocument(fresh.ctx, fresh.owner, 'O-1', {})).open).toBe('20.00');
  const { name } = await readAttachment(fresh.ctx, fresh.owner, invoice.attachments[0]?.digest as string);
  expect(name).toBe('invoice.pdf');
  const missing = await load(
    'alone.csv',
    [table.split('\n')[0] as string, 'I-9,invoice,2026-05-01,,1.00,,,,,,lost.pdf'],
    { kind: 'documents', entity: 'KSF' },
  );
  expect(missing.problems[0]).toMatchObject({
    row: 2,
    column: 'attachment',
    message: expect.stringMatching(/did not come with the load/),
  });
});

test('lines of a document come to its amount, with their tax or without; given again they replace the former ones', async () => {
  const documents = ['number,type,date,amount', 'L-1,invoice,2026-06-01,120.00', 'L-2,order,2026-06-01,100.00'];
  expect(await load('two.csv', documents, { kind: 'documents', entity: 'KSF' })).toMatchObject({ status: 'loaded' });
  const header = 'document,line,description,quantity,unit,unit_price,amount,tax_code,tax_amount';
  const first = [
    header,
    'L-1,1,Bolts,4,box,20.00,80.00,P20,16.00',
    'L-1,2,Carriage,,,,20.00,P20,4.00',
    'L-2,1,Bolts,5,box,20,100.00,,',
    'L-2,2,Nuts,1,box,7,7.00,,',
  ];
  const of = async (number: string) => (await readDocument(fresh.ctx, fresh.owner, number, {})).lines;
  expect(await of('L-1')).toBeNull();
  expect(await load('lines.csv', first, { kind: 'document-lines', entity: 'KSF' })).toMatchObject({ lines: 4 });
  expect(await of('L-1')).toMatchObject({ net: '100.00', tax: '20.00', tie: { ok: true } });
  expect((await of('L-1'))?.rows[0]).toMatchObject({
    description: 'Bolts',
    quantity: '4',
    unit: 'box',
    unitPrice: '20.00',
  });
  expect(await of('L-2')).toMatchObject({ net: '107.00', tie: { ok: false, offBy: '7.00' } });
  // What is given again has all of its lines anew; the other document keeps its own.
  const again = [header, 'L-2,1,Bolts,5,box,20,100.00,,'];
  expect(await load('again.csv', again, { kind: 'document-lines', entity: 'KSF' })).toMatchObject({ replaced: 2 });
  expect(await of('L-2')).toMatchObject({ net: '100.00', tie: { ok: true } });
  expect((await of('L-1'))?.rows).toHaveLength(2);
  const wrong = [header, 'L-1,1,Bolts,many,box,20,x,,', 'L-1,1,,1,box,20,1.00,,'];
  expect(
    (await load('wrong.csv', wrong, { kind: 'document-lines', entity: 'KSF' })).problems.map((p) => [p.row, p.column]),
  ).toEqual([
    [2, 'amount'],
    [2, 'quantity'],
    [3, 'description'],
    [3, 'line'],
  ]);
});

test('a list of periods becomes the calendar, unless lines would change their period', async () => {
  const periods = Array.from({ length: 12 }, (_, i) => {
    const month = ((i + 3) % 12) + 1;
    const year = i < 9 ? 2026 : 2027;
    const last = new Date(Date.UTC(year, month, 0)).getUTCDate();
    return `2027,${i + 1},${year}-${String(month).padStart(2, '0')}-01,${year}-${String(month).padStart(2, '0')}-${last},`;
  });
  const shifted = periods.map((p, i) =>
    i === 0 ? p.replace('2026-04-30', '2026-04-29') : i === 1 ? p.replace('2026-05-01', '2026-04-30') : p,
  );
  const refused = await load('shifted.csv', ['year,number,from,to,adjustment', ...shifted], {
    kind: 'calendar',
    entity: 'KSF',
  });
  expect(refused.problems[0]?.message).toMatch(/KSF has lines in period 2027\.01; its dates cannot change/);
  expect(
    await load('periods.csv', ['year,number,from,to,adjustment', ...periods, '2027,13,2027-03-31,2027-03-31,yes'], {
      kind: 'calendar',
      entity: 'KSF',
    }),
  ).toMatchObject({ status: 'loaded' });
  const ksf = (await readCalendars(fresh.ctx, fresh.owner)).entities.find((e) => e.code === 'KSF');
  expect(ksf?.years[0]?.periods.slice(0, 2)).toMatchObject([
    { period: '2027.01', from: '2026-04-01', to: '2026-04-30', lines: 6 },
    { period: '2027.02', lines: 2 },
  ]);
});

test('new entries are pulled page by page, resumed after a failure, never twice, and rubbish harms nothing', async () => {
  await addConnection(fresh.ctx, fresh.owner, { name: 'Ledger', url: feed.url, entity: 'KSF', privateAllowed: true });
  const pull = async () => {
    const [connection] = (await showConnections(fresh.ctx, fresh.owner)).rows;
    await askPull(fresh.ctx, fresh.owner, connection?.id as number);
    await runJobsHere(fresh.ctx);
    return (await showConnections(fresh.ctx, fresh.owner)).rows[0];
  };
  const october = async (): Promise<string | undefined> =>
    (await closing('entity=KSF&accounts=1510,1512,8213,4110,4112,4120&from=2026-10-01&to=2026-10-31&zero=show'))[
      '1512'
    ];
  feed.publish(3);
  feed.failAfter = 1;
  expect(await pull()).toMatchObject({ state: 'failed', message: expect.stringMatching(/goes on from there/) });
  const asked = feed.asked;
  expect(await october()).toBe('0.00');
  expect(await pull()).toMatchObject({ state: 'idle', upTo: '141' });
  expect(feed.asked - asked).toBe(2); // the first page was kept
  const after = await october();
  expect(after).not.toBe('0.00');
  expect(await pull()).toMatchObject({ state: 'idle', message: 'nothing new' });
  feed.publish(1);
  feed.mode = 'rubbish';
  expect(await pull()).toMatchObject({
    state: 'failed',
    message: expect.stringMatching(/something that is no JSON; what came/),
  });
  feed.mode = 'fail';
  expect(await pull()).toMatchObject({ state: 'failed', message: expect.stringMatching(/503/) });
  expect(await october()).toBe(after);
  feed.mode = 'ok';
  expect(await pull()).toMatchObject({ state: 'idle', upTo: '188' });
});

test('an entry leads to the same entry in the ledger that it came from, and nobody can be sent elsewhere', async () => {
  const number = 'FD-KSF-0001-R1';
  expect((await readEntry(fresh.ctx, fresh.owner, number, { entity: 'KSF' })).inSource).toBeNull();
  await setSourceLink(fresh.ctx, fresh.owner, sourceLinkSchema.parse({ entity: 'KSF', link: `${feed.url}/{entry}` }));
  const entry = await readEntry(fresh.ctx, fresh.owner, number, { entity: 'KSF' });
  const page = await (await fetch(entry.inSource as string)).text();
  for (const line of entry.lines) expect(page).toContain(line.debit === '0.00' ? line.credit : line.debit);
  expect((await fetch(entry.inSource?.replace(number, '%E0%A4%A') as string)).status).toBe(404);
  for (const link of [
    'javascript:alert({entry})',
    'https://ledger.example/entries',
    'https://{entry}.example/',
    'https://a:b@ledger.example/{entry}',
    '{entry}',
  ])
    expect([link, sourceLinkSchema.safeParse({ entity: 'KSF', link }).success]).toEqual([link, false]);
  const preparer = { ...fresh.owner, role: 'preparer' as const };
  await expect(setSourceLink(fresh.ctx, preparer, { entity: 'KSF', link: '' })).rejects.toThrow(/may not/);
  await setSourceLink(fresh.ctx, fresh.owner, { entity: 'KSF', link: '' });
  expect((await readSourceLinks(fresh.ctx, fresh.owner)).rows.map((r) => r.link)).toEqual(['', '']);
});

test('a load is cancelled before or while it reads, and leaves nothing; its problems can be taken as a table', async () => {
  const rows = Array.from({ length: 20_000 }, (_, i) => entry(`X-${i}`, '2026-06-01', '4110', '1.00')).flat();
  const path = join(fresh.env.JUST_THREAD_HOME as string, 'long.csv');
  writeFileSync(path, `${[HEADER, ...rows].join('\n')}\n`);
  const file = await keepFile(fresh.ctx, 'long.csv', createReadStream(path));
  // Read row by row, since something is put into every row, so that there is time to cancel.
  const columns = Object.fromEntries(HEADER.split(',').map((name) => [name, name]));
  const mapping = { columns, constants: { source: 'by hand' } };
  const id = await queueLoad(fresh.ctx, fresh.owner, file, { kind: 'lines', entity: 'KSF', mapping });
  const running = runJobsHere(fresh.ctx);
  for (let i = 0; i < 400 && (await showLoad(fresh.ctx, fresh.owner, id)).rowsRead === 0; i++)
    await new Promise((r) => setTimeout(r, 5));
  await cancelLoad(fresh.ctx, fresh.owner, id);
  await running;
  expect(await showLoad(fresh.ctx, fresh.owner, id)).toMatchObject({
    status: 'refused',
    message: 'cancelled, nothing was loaded',
  });
  expect(await closing('entity=KSF&from=2027.03&to=2027.03&accounts=4110')).not.toHaveProperty('4110', '-20000.00');
  const refused = await load('bad.csv', [HEADER, 'B,1,2026-06-01,9999,1.00,,"=x",TS,'], { entity: 'KSF' });
  let table = '';
  for await (const chunk of await problemsTable(fresh.ctx, fresh.owner, refused.id)) table += chunk;
  expect(table).toMatch(/^file,row,column,value,message\r\nbad\.csv,2,account,9999,/);
});

test('accounts show every attribute with balance, missing and similar names; names are mended, recorded, codes stay', async () => {
  const seen = await readAccounts(fresh.ctx, fresh.owner, scope('entity=KSF&window=everything'));
  const row = (code: string) => seen.rows.find((r) => (r as { account: string }).account === code);
  expect(row('1512')).toMatchObject({
    depth: 1,
    parent: 'A',
    missing: ['nb'],
    createdBy: 'tomas',
    statement: 'balance sheet',
  });
  expect(row('4120')).toMatchObject({ similar: ['4121'], statement: 'income statement' });
  await nameAccount(fresh.ctx, fresh.owner, '1512', { entity: 'KSF', language: 'nb', name: 'Kontanter om bord' });
  const again = await readAccounts(fresh.ctx, fresh.owner, scope('entity=KSF&window=everything'));
  expect(again.rows.find((r) => (r as { account: string }).account === '1512')).toMatchObject({
    missing: [],
    names: { nb: 'Kontanter om bord' },
  });
  const [act] = await rowsOf<{ act: string }>(fresh.ctx.work, 'select act from record order by id desc limit 1');
  expect(act?.act).toBe('named an account');
  const dims = await readDimensions(fresh.ctx, fresh.owner, scope('entity=KSF&from=2027.01&to=2027.01&accounts=4*'));
  expect(dims.dimensions.find((d) => d.code === 'vessel')?.rows.slice(0, 2)).toMatchObject([
    { code: 'FLEET', depth: 0, movement: '-12.00', count: 1 },
    { code: 'FULMAR', depth: 1, movement: '0.00' },
  ]);
  await keepHolding(fresh.ctx, fresh.owner, {
    entity: 'KSF',
    number: 'B1',
    name: 'Main bank',
    kind: 'bank',
    takes: 'both',
    account: '1510',
    bankAccount: 'GB00 0001',
  });
  await expect(
    keepHolding(fresh.ctx, fresh.owner, {
      entity: 'KSF',
      number: 'B2',
      name: 'x',
      kind: 'bank',
      takes: 'both',
      account: '1510',
    }),
  ).rejects.toThrow(/own account number/);
  expect((await readHoldings(fresh.ctx, fresh.owner, scope('entity=KSF&from=2027.01&to=2027.01'))).rows).toMatchObject([
    { number: 'B1', account: '1510', balance: '33.00' },
  ]);
});

/** A file system of 256 kB, where this machine lets us make one. */
const tiny = mkdtempSync(join(tmpdir(), 'just-thread-tiny-'));
const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=256k', 'tmpfs', tiny]).status === 0;
afterAll(() => {
  if (mounted) spawnSync('umount', [tiny]);
  rmSync(tiny, { recursive: true, force: true });
});

test.skipIf(!mounted)('a full disk keeps nothing of a file, and says so; what was there is as it was', async () => {
  const full = { ...fresh.ctx, files: new FileShelf(tiny) };
  const small = await keepFile(full, 'small.csv', Readable.from(Buffer.from('code,name,type\n')));
  await expect(keepFile(full, 'large.csv', Readable.from(Buffer.alloc(1024 ** 2, 'x')))).rejects.toMatchObject({
    code: 'ENOSPC',
  });
  expect(readdirSync(tiny)).toEqual([small.digest]);
  expect(await keepFile(full, 'small.csv', Readable.from(Buffer.from('code,name,type\n')))).toEqual(small);
});

test('a standard audit file gives its invoices and payments as documents that settle each other', async () => {
  const invoice = (no: string, total: string): string =>
    `<Invoice><InvoiceNo>${no}</InvoiceNo><CustomerID>C7</CustomerID><InvoiceDate>2026-04-02</InvoiceDate><InvoiceType>Invoice</InvoiceType><DocumentTotals><GrossTotal>${total}</GrossTotal></DocumentTotals></Invoice>`;
  const xml = `<?xml version="1.0"?><AuditFile xmlns="urn:x"><Header/><MasterFiles/><SourceDocuments><SalesInvoices>${invoice('SI-1', '90.00')}${invoice('SI-2', '10.00')}</SalesInvoices>
    <Payments><Payment><PaymentRefNo>PM-1</PaymentRefNo><TransactionDate>2026-04-20</TransactionDate><Line><SourceDocumentID>SI-1</SourceDocumentID><CustomerID>C7</CustomerID></Line><DocumentTotals><GrossTotal>60.00</GrossTotal></DocumentTotals></Payment></Payments></SourceDocuments></AuditFile>`;
  expect(await load('documents.xml', [xml], { kind: 'documents', entity: 'KSF' })).toMatchObject({
    status: 'loaded',
    format: 'saft',
    lines: 3,
    problems: [],
  });
  const document = await readDocument(fresh.ctx, fresh.owner, 'SI-1', {});
  expect(document).toMatchObject({ type: 'invoice', amount: '90.00', open: '30.00', counterparty: 'C7' });
  expect(document.events.map((e) => [e.document, e.open])).toEqual([
    ['SI-1', '90.00'],
    ['PM-1', '30.00'],
  ]);
});

test('a workbook’s sheet is chosen by its name, and each is read for what it holds', async () => {
  const path = join(fresh.env.JUST_THREAD_HOME as string, 'book.xlsx');
  const book = new ExcelJS.Workbook();
  book.addWorksheet('About').addRow(['made up']);
  const sheet = book.addWorksheet('Ledger');
  sheet.addRow(['Belegnr', 'Datum', 'Konto', 'Betrag', 'Text']);
  for (const [account, amount] of [
    ['1510', 1234.1],
    ['4110', -1234.1],
  ]) {
    sheet.addRow(['W-1', new Date(Date.UTC(2026, 6, 3)), account, amount, 'Book']);
  }
  await book.xlsx.writeFile(path);
  const file = await keepFile(fresh.ctx, 'book.xlsx', createReadStream(path));
  const seen = await inspectFile(fresh.ctx, fresh.owner, file.digest, {
    kind: 'lines',
    entity: 'KSF',
    mapping: { reading: { sheet: 'Ledger' } },
  });
  expect(seen).toMatchObject({
    sheets: ['About', 'Ledger'],
    reading: { sheet: 'Ledger' },
    missing: [],
    preview: { problemCount: 0, balanced: true },
  });
  const done = await loadFile(fresh.ctx, fresh.owner, path, {
    kind: 'lines',
    entity: 'KSF',
    mapping: JSON.stringify({ ...seen.mapping, reading: { sheet: 'Ledger' } }),
  });
  expect(done).toMatchObject({ status: 'loaded', format: 'xlsx', lines: 2 });
  expect((await closing('entity=KSF&from=2027.04&to=2027.04&accounts=4110'))['4110']).toMatch(/\.10$/);
});
