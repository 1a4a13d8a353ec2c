import { Readable } from 'node:stream';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { readQuery, scopeShape } from '@/contracts/scope';
import { seedDemo } from '@/demo/seed';
import { type Fresh, freshInstallation } from '@/ops/fresh';
import { keepHolding, nameAccount, readAccounts, readCalendars, readHoldings } from './charts';
import { compareLoads } from './compareLoads';
import { addConnection, askPull, showConnections } from './connections';
import { exportData } from './exportData';
import { inspectFile } from './inspectFile';
import { cancelLoad, keepFile, loadedFile, queueLoad, showLoad, showLoads, showMappings } from './loads';
import { signIn, viewerOfSession } from './people';
import { proveLoad } from './proveLoad';
import { readDocument } from './readDocument';
import { keepOutline, listStatements, readOutline } from './statements/outlines';
import { readStatement } from './statements/readStatement';
import type { Viewer } from './viewer';

// OWASP ASVS 4.0.3, 4.1.1 to 4.1.3 and 4.2.1: who may see what is decided in the use cases, for every one of them.

let fresh: Fresh;
let col: Viewer;
let tomas: Viewer;
beforeAll(async () => {
  fresh = await freshInstallation();
  await seedDemo(fresh.ctx, true, () => {});
  const as = async (who: string): Promise<Viewer> =>
    (await viewerOfSession(fresh.ctx, await signIn(fresh.ctx, `${who}@kestrel.example`, 'harrowick-quay', '127.0.0.1'))) as Viewer;
  [col, tomas] = [await as('col'), await as('tomas')];
});
afterAll(() => fresh?.close());

const scope = (query: string) => readQuery(scopeShape, new URLSearchParams(query));
const GONE = /is not there, or outside what you may see/;

test('a reader of one company reads nothing of the others, in any use case, and is told the same as of what is not there', async () => {
  const { ctx } = fresh;
  for (const entity of ['STL', 'NONE']) {
    await expect(readStatement(ctx, col, 'income', scope(`entity=${entity}`))).rejects.toThrow(GONE);
    await expect(readStatement(ctx, col, 'balance', scope(`entity=KSF&entity=${entity}`))).rejects.toThrow(GONE);
    await expect(listStatements(ctx, col, { entity })).rejects.toThrow(GONE);
    await expect(readOutline(ctx, col, 'income', { entity })).rejects.toThrow(GONE);
    await expect(readAccounts(ctx, col, scope(`entity=${entity}`))).rejects.toThrow(GONE);
    await expect(readHoldings(ctx, col, scope(`entity=${entity}`))).rejects.toThrow(GONE);
    await expect(exportData(ctx, col, { ...scope(`entity=${entity}`), what: 'lines', format: 'csv' })).rejects.toThrow(GONE);
    await expect(compareLoads(ctx, col, { from: 5, to: 7, entity: [entity], limit: 1, at: 0 })).rejects.toThrow(GONE);
  }
  expect((await readCalendars(ctx, col)).entities.map((e) => e.code)).toEqual(['KSF']);
  const compared = await compareLoads(ctx, col, { from: 0, to: 7, limit: 10, at: 0 });
  expect(new Set(compared.accounts.map((a) => a.entity))).toEqual(new Set(['KSF']));
  // A load that holds several companies, its file and its proof are for whoever sees all of them.
  expect((await showLoads(ctx, col, { limit: 50 })).rows.every((l) => l.entity === 'KSF')).toBe(true);
  for (const id of [5, 99]) {
    await expect(showLoad(ctx, col, id)).rejects.toThrow(GONE);
    await expect(loadedFile(ctx, col, id)).rejects.toThrow(GONE);
    await expect(proveLoad(ctx, col, id)).rejects.toThrow(GONE);
  }
  await expect(readDocument(ctx, col, 'X-1', {})).rejects.toThrow(GONE);
});

test('a reader changes nothing; a preparer connects no source; a load is cancelled by who began it or an owner', async () => {
  const { ctx } = fresh;
  const file = await keepFile(ctx, 'x.csv', Readable.from(Buffer.from('code,name,type\n1,Cash,asset\n')));
  const denied = /A reader may not/;
  await expect(queueLoad(ctx, col, file, { kind: 'accounts', entity: 'KSF' })).rejects.toThrow(denied);
  await expect(inspectFile(ctx, col, file.digest, {})).rejects.toThrow(denied);
  await expect(showMappings(ctx, col)).rejects.toThrow(denied);
  await expect(nameAccount(ctx, col, '6310', { entity: 'KSF', language: 'nb', name: 'x' })).rejects.toThrow(denied);
  await expect(keepHolding(ctx, col, { entity: 'KSF', number: '1', name: 'x', kind: 'cash', takes: 'both', account: '1520' })).rejects.toThrow(denied);
  await expect(showConnections(ctx, col)).rejects.toThrow(denied);
  await expect(askPull(ctx, col, 1)).rejects.toThrow(denied);
  const { outline } = await readOutline(ctx, tomas, 'income', { entity: 'KSF' });
  await expect(keepOutline(ctx, col, 'income', { entity: 'KSF', outline: outline as never })).rejects.toThrow(denied);
  await expect(addConnection(ctx, tomas, { name: 'x', url: 'http://127.0.0.1:1/' })).rejects.toThrow(/A preparer may not connect a source/);
  const id = await queueLoad(ctx, fresh.owner, file, { kind: 'accounts', entity: 'KSF' });
  await expect(cancelLoad(ctx, tomas, id)).rejects.toThrow(GONE);
  await cancelLoad(ctx, fresh.owner, id);
});
