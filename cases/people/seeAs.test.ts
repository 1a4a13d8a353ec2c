import { afterAll, beforeAll, expect, test } from 'vitest';
import { demoInstallation, type Fresh } from '@/ops/fresh';
import type { Viewer } from '../asking/viewer';
import { readTotals } from '../sheets/readTotals';
import { seeAs } from './seeAs';

let fresh: Fresh;
beforeAll(async () => {
  fresh = await demoInstallation();
});
afterAll(() => fresh?.close());

const NONE = { entities: null, members: {}, accounts: null };

test('an owner sees what a grant would show, as whoever has it would ask; it is on record, and for owners alone', async () => {
  const { ctx, owner } = fresh;
  const grant = { entities: ['KSF'], members: { costcentre: ['DECK', 'ENG'] }, accounts: '6000 to 6999' };
  const seen = await seeAs(ctx, owner, { role: 'reader', ...grant });
  expect(seen.whole).toBe(false);
  expect(seen.hidden).toEqual(['Nordholm Slip AS', 'Sound Terminals Ltd'].filter((n) => seen.hidden.includes(n)));
  expect(seen.hidden).toHaveLength(2);
  const [books] = seen.books;
  const other: Viewer = { ...owner, ...grant, role: 'reader' };
  const { total } = await readTotals(ctx, other, { entity: ['KSF'], window: 'everything', status: 'all', dims: {} });
  expect(books).toMatchObject({ entity: 'KSF', lines: total.count });
  expect(books?.lines).toBeLessThan(books?.of as number);
  expect(books?.accounts.every((a) => a.code.startsWith('6'))).toBe(true);
  expect(books?.sentence).toMatch(/Deck/);
  const all = await seeAs(ctx, owner, { role: 'preparer', ...NONE });
  expect(all).toMatchObject({ whole: true, hidden: [] });
  expect(all.books.every((b) => b.lines === b.of)).toBe(true);
  expect(await fresh.superuser('record').where({ act: 'saw as somebody else' })).toHaveLength(2);
  await expect(seeAs(ctx, { ...owner, role: 'reviewer' }, { role: 'reader', ...NONE })).rejects.toMatchObject({
    status: 403,
  });
  await expect(seeAs(ctx, owner, { role: 'reader', ...NONE, entities: ['NONE'] })).rejects.toMatchObject({
    status: 422,
  });
});
