import { Readable } from 'node:stream';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { linesShape, sheetShape, trialBalanceShape } from '@/contracts/questions';
import { readQuery, scopeShape } from '@/contracts/scope';
import { demoInstallation, demoPerson, type Fresh } from '@/ops/fresh';
import { rowsOf } from '@/store/db';
import { ROLES } from '@/store/roles';
import type { Viewer } from './asking/viewer';
import { nameAccount, readAccounts } from './charts/accounts';
import { readCalendars } from './charts/calendars';
import { keepHolding, readHoldings } from './charts/holdings';
import { readDocument } from './documents/readDocument';
import { listPins, pin, showPin } from './evidence/pins';
import { listThreads } from './evidence/threads/shown';
import { exportData } from './exports/exportData';
import { compareLoads } from './loads/compareLoads';
import { addConnection, askPull, showConnections } from './loads/connections';
import { inspectFile } from './loads/inspectFile';
import { keepFile } from './loads/keptFiles';
import { cancelLoad, loadedFile, queueLoad, showLoad, showLoads, showMappings } from './loads/loads';
import { proveLoad } from './loads/proveLoad';
import { addPerson } from './people/people';
import { readEntry } from './sheets/readEntry';
import { readLines } from './sheets/readLines';
import { readOtherSide } from './sheets/readOtherSide';
import { readSheet } from './sheets/readSheet';
import { readTotals } from './sheets/readTotals';
import { readTrialBalance } from './sheets/readTrialBalance';
import { keepOutline, listStatements, readOutline } from './statements/outlines';
import { readStatement } from './statements/readStatement';

// OWASP ASVS 4.0.3, 4.1.1 to 4.1.3 and 4.2.1: who may see what is decided in the use cases, for every one of them.

let fresh: Fresh;
let col: Viewer;
let kai: Viewer;
let tomas: Viewer;
beforeAll(async () => {
  fresh = await demoInstallation();
  const as = (who: string): Promise<Viewer> => demoPerson(fresh, who);
  await addPerson(fresh.ctx, fresh.owner, {
    email: 'kai@kestrel.example',
    name: 'Kai Strand',
    role: 'reader',
    password: 'harrowick-quay',
    entities: ['KSF'],
  });
  [col, kai, tomas] = [await as('col'), await as('kai'), await as('tomas')];
});
afterAll(() => fresh?.close());

const scope = (query: string) => readQuery(scopeShape, new URLSearchParams(query));
const GONE = /is not there, or outside what you may see/;

test('a reader of one company reads nothing of the others, in any use case, and is told the same as of what is not there', async () => {
  const { ctx } = fresh;
  for (const entity of ['STL', 'NONE']) {
    await expect(readStatement(ctx, kai, 'income', scope(`entity=${entity}`))).rejects.toThrow(GONE);
    await expect(readStatement(ctx, kai, 'balance', scope(`entity=KSF&entity=${entity}`))).rejects.toThrow(GONE);
    await expect(listStatements(ctx, kai, { entity })).rejects.toThrow(GONE);
    await expect(readOutline(ctx, kai, 'income', { entity })).rejects.toThrow(GONE);
    await expect(readAccounts(ctx, kai, scope(`entity=${entity}`))).rejects.toThrow(GONE);
    await expect(readHoldings(ctx, kai, scope(`entity=${entity}`))).rejects.toThrow(GONE);
    await expect(exportData(ctx, kai, { ...scope(`entity=${entity}`), what: 'lines', format: 'csv' })).rejects.toThrow(
      GONE,
    );
    await expect(compareLoads(ctx, kai, { from: 5, to: 7, entity: [entity], limit: 1, at: 0 })).rejects.toThrow(GONE);
  }
  expect((await readCalendars(ctx, kai)).entities.map((e) => e.code)).toEqual(['KSF']);
  const compared = await compareLoads(ctx, kai, { from: 0, to: 7, limit: 10, at: 0 });
  expect(new Set(compared.accounts.map((a) => a.entity))).toEqual(new Set(['KSF']));
  // A load that holds several companies, its file and its proof are for whoever sees all of them.
  expect((await showLoads(ctx, kai, { limit: 50 })).rows.every((l) => l.entity === 'KSF')).toBe(true);
  for (const id of [5, 99]) {
    await expect(showLoad(ctx, kai, id)).rejects.toThrow(GONE);
    await expect(loadedFile(ctx, kai, id)).rejects.toThrow(GONE);
    await expect(proveLoad(ctx, kai, id)).rejects.toThrow(GONE);
  }
  await expect(readDocument(ctx, kai, 'X-1', {})).rejects.toThrow(GONE);
});

test('a reader of two cost centres sees them and nothing else, along every way that leads to a line', async () => {
  const { ctx, owner } = fresh;
  const ask = (query: string) => readQuery(trialBalanceShape, new URLSearchParams(query));
  const window = 'entity=KSF&from=2027.04&to=2027.06';
  const theirs = await readTrialBalance(ctx, col, ask(window));
  const granted = await readTrialBalance(ctx, owner, ask(`${window}&dim.costcentre=DECK&dim.costcentre=ENG`));
  expect(theirs.totals).toEqual(granted.totals);
  expect(theirs.rows).toEqual(granted.rows);
  // The sentence says what is left out, and a link to more says that it is outside.
  expect(theirs.sentence).toMatch(/Deck or Engine/);
  expect(theirs.parts.find((p) => p.control === 'dim.costcentre')).toMatchObject({ granted: true, removable: false });
  await expect(readTrialBalance(ctx, col, ask(`${window}&dim.costcentre=ADM-FIN`))).rejects.toMatchObject({
    errors: [
      { path: 'dim.costcentre', message: expect.stringMatching(/outside what you may see, which is Deck or Engine/) },
    ],
  });
  const inner = await readTrialBalance(ctx, col, ask(`${window}&dim.costcentre=OPS`));
  expect(inner.totals).toEqual(granted.totals);

  // Inside a member that the scope does not take there is nothing; of one outside of the grant nobody says even that.
  const inside = (member: string) =>
    readSheet(
      ctx,
      col,
      readQuery(sheetShape, new URLSearchParams(`${window}&dim.costcentre=DECK&by=dim:costcentre/${member}`)),
    );
  expect(await inside('ENG')).toMatchObject({ rows: [], total: { count: 0 }, tie: { ok: true } });
  await expect(inside('ADM')).rejects.toThrow(/there is no .* “ADM”/);

  const page = await readLines(ctx, col, readQuery(linesShape, new URLSearchParams(`${window}&accounts=6310&limit=1`)));
  const [line] = page.rows;
  expect(line?.dims.find((d) => d.dimension === 'costcentre')?.code).toMatch(/^(DK|EN)-/);
  expect(line?.otherSide).toEqual([]);
  const entry = await readEntry(ctx, col, line?.entryId as string, {});
  const whole = await readEntry(ctx, owner, line?.entryId as string, {});
  expect([entry.lines.length + entry.outside, whole.outside]).toEqual([whole.lines.length, 0]);
  expect(entry.outside).toBeGreaterThan(0);
  // Documents are of whole books: an entry leads to none that the reader would be refused.
  expect([entry.documents, whole.documents].map((of) => of.map((d) => d.opens))).toEqual([[false], [true]]);
  // Half an entry is not said to balance.
  expect([entry.tie, whole.tie]).toEqual([null, { ok: true, offBy: '0.00' }]);
  for (const l of entry.lines) expect(l.dims.find((d) => d.dimension === 'costcentre')?.code).toMatch(/^(DK|EN)-/);

  const part = /you see a part of them/;
  await expect(readOtherSide(ctx, col, scope(`${window}&accounts=6310`))).rejects.toThrow(part);
  await expect(readTotals(ctx, col, scope(`${window}&opposite=1510`))).rejects.toThrow(part);
  await expect(readStatement(ctx, col, 'cashflow', scope(window))).rejects.toThrow(part);
  // A position is of what they may see: the same as the owner's narrowed to it.
  const held = await readStatement(ctx, col, 'position', { ...scope(window), by: 'dim:vessel' });
  const same = await readStatement(ctx, owner, 'position', {
    ...scope(`${window}&dim.costcentre=DECK&dim.costcentre=ENG`),
    by: 'dim:vessel',
  });
  expect(held.rows.map((r) => r.values)).toEqual(same.rows.map((r) => r.values));
  expect(held.rows.length).toBeGreaterThan(2);
  expect(held.guards.every((g) => g.ok)).toBe(true);
  await expect(readStatement(ctx, col, 'income', { ...scope(window), eliminated: 'yes' })).rejects.toThrow(part);
  await expect(compareLoads(ctx, col, { from: 5, to: 7, limit: 1, at: 0 })).rejects.toThrow(part);
  await expect(readDocument(ctx, col, 'NS-20631', {})).rejects.toThrow(part);
  expect((await showLoads(ctx, col, { limit: 50 })).rows).toEqual([]);
  expect(
    (await readCalendars(ctx, col)).entities
      .flatMap((e) => e.years.flatMap((y) => y.periods.map((p) => p.lines + Number(p.debit))))
      .every((n) => n === 0),
  ).toBe(true);

  // A pin, a note or a thread of more than the grant is not there, since it would show a number of the whole.
  expect(await listThreads(ctx, col)).toEqual({ rows: [] });
  const kept = { address: '/x', label: 'x', measure: 'closing' as const };
  const pinned = async (extra: string) =>
    (await pin(ctx, tomas, { ...kept, subject: `figure:${window}&accounts=6310${extra}` })).id;
  const [mine, more] = [await pinned('&dim.costcentre=DECK'), await pinned('')];
  expect((await listPins(ctx, col, { entity: ['KSF'], limit: 100 })).rows.map((p) => p.id)).toEqual([mine]);
  await expect(showPin(ctx, col, more)).rejects.toThrow(GONE);
});

test('an audit file of a part says that it is one, and names customers and suppliers as what they are', async () => {
  const { ctx } = fresh;
  const file = async (viewer: Viewer): Promise<string> => {
    const { stream } = await exportData(ctx, viewer, {
      ...scope('entity=KSF&from=2027.04&to=2027.04'),
      what: 'lines',
      format: 'saft',
    });
    return (await stream.toArray()).join('');
  };
  const [whole, part] = [await file(fresh.owner), await file(col)];
  expect(part).toMatch(/<HeaderComment>A part of the books/);
  expect(whole).not.toContain('HeaderComment');
  // S-404 Sound Hydraulics is a supplier by its record, C-106 a customer.
  expect(whole).toContain('<Supplier><SupplierID>S-404</SupplierID><Name>Sound Hydraulics');
  expect(whole).not.toMatch(/<CustomerID>S-/);
  expect(whole).toMatch(/<Customer><CustomerID>C-/);
  expect(whole).not.toMatch(/<SupplierID>C-/);
});

test('a reader changes nothing; a preparer connects no source; a load is cancelled by who began it or an owner', async () => {
  const { ctx } = fresh;
  const file = await keepFile(ctx, 'x.csv', Readable.from(Buffer.from('code,name,type\n1,Cash,asset\n')));
  const denied = /A reader may not/;
  await expect(queueLoad(ctx, col, file, { kind: 'accounts', entity: 'KSF' })).rejects.toThrow(denied);
  await expect(inspectFile(ctx, col, file.digest, {})).rejects.toThrow(denied);
  await expect(showMappings(ctx, col)).rejects.toThrow(denied);
  await expect(nameAccount(ctx, col, '6310', { entity: 'KSF', language: 'nb', name: 'x' })).rejects.toThrow(denied);
  await expect(
    keepHolding(ctx, col, { entity: 'KSF', number: '1', name: 'x', kind: 'cash', takes: 'both', account: '1520' }),
  ).rejects.toThrow(denied);
  await expect(showConnections(ctx, col)).rejects.toThrow(denied);
  await expect(askPull(ctx, col, 1)).rejects.toThrow(denied);
  const { outline } = await readOutline(ctx, tomas, 'income', { entity: 'KSF' });
  await expect(keepOutline(ctx, col, 'income', { entity: 'KSF', outline: outline as never })).rejects.toThrow(denied);
  await expect(addConnection(ctx, tomas, { name: 'x', url: 'http://127.0.0.1:1/' })).rejects.toThrow(
    /A preparer may not connect a source/,
  );
  const id = await queueLoad(ctx, fresh.owner, file, { kind: 'accounts', entity: 'KSF' });
  await expect(cancelLoad(ctx, tomas, id)).rejects.toThrow(GONE);
  await cancelLoad(ctx, fresh.owner, id);
});

test('every table is written by one of the roles that the product runs under: none that a release brought was forgotten', async () => {
  const unwritten = await rowsOf<{ name: string }>(
    fresh.superuser,
    `select tablename as name from pg_tables where schemaname = 'public'
       and not has_table_privilege('${ROLES.work}', quote_ident(schemaname) || '.' || quote_ident(tablename), 'insert')
       and not has_table_privilege('${ROLES.web}', quote_ident(schemaname) || '.' || quote_ident(tablename), 'insert') order by 1`,
  );
  expect(unwritten.map((t) => t.name)).toEqual(['knex_migrations', 'knex_migrations_lock']);
});
