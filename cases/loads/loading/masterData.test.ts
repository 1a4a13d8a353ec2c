import { afterAll, beforeAll, expect, test } from 'vitest';
import { readQuery, scopeShape } from '@/contracts/scope';
import { type Fresh, freshInstallation, sendFile } from '@/ops/fresh';
import { readChart, readMembers } from '@/store/charts';
import { readAccounts } from '../../charts/accounts';
import { addEntity } from '../../charts/entities';
import { listParties } from '../../charts/parties';
import { openDocuments } from '../../documents/openDocuments';

let fresh: Fresh;
const scope = (query: string) => readQuery(scopeShape, new URLSearchParams(query));

const load = (name: string, content: string[], fields: Partial<Parameters<typeof sendFile>[3]>) =>
  sendFile(fresh, `${name}.csv`, `${content.join('\n')}\n`, { kind: 'lines', ...fields });

beforeAll(async () => {
  fresh = await freshInstallation();
  await addEntity(fresh.ctx, fresh.owner, {
    code: 'ONE',
    name: 'Company ONE',
    currency: 'USD',
    calendar: { kind: 'monthly', start: '04', adjustmentPeriods: 1 },
    yearEnd: 'derived',
    retainedEarnings: '300',
  });
  await load('ships', ['dimension,code,name', 'vessel,M,Maren'], { kind: 'dimensions' });
  await load('chart', ['code,name,type', '300,Retained earnings,equity'], { kind: 'accounts', entity: 'ONE' });
});
afterAll(() => fresh?.close());

test('a table with some of the columns changes those alone; what an empty cell would take away is asked', async () => {
  const chart = async () => (await readChart(fresh.ctx.read, 1)).find((a) => a.code === '6000');
  const of = { kind: 'accounts' as const, entity: 'ONE' };
  await load(
    'full',
    [
      'code,name,name:fr,type,status,group,created_at,created_by,code:statutory,dim:vessel',
      '6000,Overheads,Frais,expense,inactive,Fixed;Office,2026-01-05,dana,610,required',
    ],
    of,
  );
  const before = await chart();
  expect(before).toMatchObject({ status: 'inactive', groups: ['Fixed', 'Office'], created_by: 'dana' });
  await load('partial', ['code,name,type', '6000,Overheads and more,expense'], of);
  expect(await chart()).toEqual({ ...before, name: 'Overheads and more' });
  const emptied = ['code,name,type,status,group,name:fr', '6000,Overheads at last,expense,,,'];
  // What it would take away is asked about, cell by cell.
  const asked = await load('emptied', emptied, of);
  expect(asked).toMatchObject({ status: 'refused', problemCount: 3 });
  expect(asked.problems.map((p) => [p.column, p.message.slice(0, 62)])).toEqual([
    ['status', 'this cell is empty and would take away “inactive”; say with the'.slice(0, 62)],
    ['group', 'this cell is empty and would take away “Fixed; Office”; say with'.slice(0, 62)],
    ['name:fr', 'this cell is empty and would take away “Frais”; say with the load'.slice(0, 62)],
  ]);
  expect(await chart()).toEqual({ ...before, name: 'Overheads and more' });
  await load('kept', emptied, { ...of, emptyCells: 'keep' });
  expect(await chart()).toEqual({ ...before, name: 'Overheads at last' });
  await load('cleared', emptied, { ...of, emptyCells: 'clear' });
  expect(await chart()).toEqual({ ...before, name: 'Overheads at last', status: 'active', groups: [], names: {} });
  // An account that is active again is told from one that always was.
  const seen = await readAccounts(fresh.ctx, fresh.owner, scope('entity=ONE&window=everything'));
  expect(seen.rows.find((r) => r.account === '6000')?.statusHistory).toMatchObject([
    { was: 'inactive', status: 'active' },
  ]);

  const member = async () => (await readMembers(fresh.ctx.read)).find((m) => m.code === 'GULL');
  await load(
    'fleet',
    [
      'dimension,code,name,parent,valid_from,group,name:fr',
      'ship,BIRDS,Birds,,,,',
      'ship,GULL,Gull,BIRDS,2026-01-01,Old,Goéland',
    ],
    { kind: 'dimensions' },
  );
  const gull = await member();
  expect(gull).toMatchObject({ parent: 'BIRDS', groups: ['Old'] });
  await load('names', ['dimension,code,name', 'ship,GULL,The Gull'], { kind: 'dimensions' });
  expect(await member()).toEqual({ ...gull, name: 'The Gull' });
});

test('customers and suppliers are brought in and changed by column; an audit file brings its own', async () => {
  const of = { kind: 'parties' as const };
  const rows = async () => (await listParties(fresh.ctx, fresh.owner)).rows;
  await load(
    'parties',
    [
      'code,name,kind,city,bank_account',
      'K1,Kvarn Provisions,supplier,Tolsey,GB00 1',
      'K2,Kvarn Provision Ltd,customer,Lindra,GB001',
    ],
    of,
  );
  expect((await rows()).find((p) => p.code === 'K1')).toMatchObject({ nearName: ['K2'], sameBank: ['K2'] });
  await load('bank', ['code,bank_account', 'K1,GB00 2'], of);
  const wrong = await load('wrong', ['code,name,kind,country', 'K1,Kvarn,suplier,Norway', 'K1,Kvarn,supplier,NO'], of);
  expect(wrong.problems.map((p) => [p.row, p.column])).toEqual([
    [2, 'country'],
    [2, 'kind'],
    [3, 'code'],
  ]);
  expect(wrong.problems[1]?.message).toMatch(/is it supplier\?/);
  await load('move', ['code,name,city', 'K1,Kvarn Provisions,Brenna'], of);
  expect((await rows()).find((p) => p.code === 'K1')).toMatchObject({
    city: 'Brenna',
    kind: 'supplier',
    bankAccount: 'GB00 2',
    sameBank: [],
  });
  const party =
    '<Supplier><SupplierID>K3</SupplierID><Name>Kelp AS</Name><Address><City>Skarvoy</City><Country>NO</Country></Address></Supplier>';
  const xml = `<?xml version="1.0"?><AuditFile xmlns="urn:x"><Header/><MasterFiles><Suppliers>${party}</Suppliers></MasterFiles></AuditFile>`;
  expect(await load('audit', [xml], of)).toMatchObject({ status: 'loaded', format: 'saft' });
  expect((await rows()).find((p) => p.code === 'K3')).toMatchObject({
    name: 'Kelp AS',
    kind: 'supplier',
    city: 'Skarvoy',
    country: 'NO',
  });
});

test('documents that do not say their control account are on the one where their lines come to their amount', async () => {
  const chart = ['code,name,type', '2400,Creditors,liability', '1450,Tools,asset', '2710,Tax,liability'];
  await load('creditors', chart, { kind: 'accounts', entity: 'ONE' });
  const head = 'entity,entry,line,date,account,debit,credit,description,document,counterparty';
  const bought = (number: string, net: string, tax: string, gross: string): string[] => [
    `ONE,${number},1,2026-05-05,1450,${net},,Tools,${number},K1`,
    ...(tax ? [`ONE,${number},2,2026-05-05,2710,${tax},,Tax,${number},K1`] : []),
    `ONE,${number},3,2026-05-05,2400,,${gross},Tools,${number},K1`,
  ];
  const documents = [
    'entity,number,type,date,amount',
    'ONE,D-1,invoice,2026-05-05,120.00',
    'ONE,D-2,invoice,2026-05-05,80.00',
    'ONE,D-3,invoice,2026-05-05,60.00',
    'ONE,G-1,grant letter,2026-05-06,40.00',
  ];
  // Two of them are booked before the documents come, one after.
  await load(
    'tools',
    [head, ...bought('D-1', '100.00', '20.00', '120.00'), ...bought('D-2', '80.00', '', '80.00')],
    {},
  );
  await load('papers', documents, { kind: 'documents' });
  // A grant comes with its letter: what was received at once is nobody's debt, on no account.
  await load('bank', ['code,name,type,flow', '1520,Bank,asset,cash'], { kind: 'accounts', entity: 'ONE' });
  const granted = ['ONE,G-1,1,2026-05-06,1520,40.00,,Grant,G-1,', 'ONE,G-1,2,2026-05-06,2710,,40.00,Grant,G-1,'];
  await load('later', [head, ...bought('D-3', '50.00', '10.00', '60.00'), ...granted], {});
  const found = await openDocuments(fresh.ctx, fresh.owner, {
    ...scope('entity=ONE&accounts=2400&window=everything'),
    open: 'yes',
    aged: 'due',
  });
  expect(found.rows.map((r) => [r.number, r.account])).toEqual([
    ['D-1', '2400'],
    ['D-2', '2400'],
    ['D-3', '2400'],
  ]);
  expect(found.tie).toEqual({ ok: true, offBy: '0.00' });
  const all = await openDocuments(fresh.ctx, fresh.owner, {
    ...scope('entity=ONE&window=everything'),
    open: 'yes',
    aged: 'due',
  });
  expect(all.accounts.map((a) => a.account)).toEqual(['2400']);
});
