import { afterAll, beforeAll, expect, test } from 'vitest';
import { type Fresh, freshInstallation } from '@/ops/fresh';
import { takeConnectionLock } from './connections';
import { insertLoad, type NewLoad, takeLoadLock } from './loads';
import { takeTriesLock } from './people';
import { addToRecord, walkRecord } from './record';

// What must not be done twice at once, however many processes there are: each lock is the database's.

let fresh: Fresh;
beforeAll(async () => {
  fresh = await freshInstallation();
});
afterAll(() => fresh?.close());

/** A transaction that holds what it took until it is let go. */
async function holding<T>(take: (trx: Parameters<typeof addToRecord>[0]) => Promise<T>) {
  const trx = await fresh.ctx.work.transaction();
  return { took: await take(trx), letGo: () => trx.rollback() };
}

const load = (name: string): NewLoad =>
  ({
    kind: 'lines',
    format: 'csv',
    file_name: name,
    file_digest: 'x'.repeat(64),
    file_bytes: 1,
    options: {},
    mapping: null,
    person: null,
    person_name: 'somebody',
  }) as unknown as NewLoad;

test('loads run one at a time, whoever runs them, and the next can when the first has let go', async () => {
  const first = await holding(takeLoadLock);
  const second = await holding(takeLoadLock);
  expect([first.took, second.took]).toEqual([true, false]);
  await second.letGo();
  await first.letGo();
  const third = await holding(takeLoadLock);
  expect(third.took).toBe(true);
  await third.letGo();
});

test('a source is pulled from by one at a time, another source beside it', async () => {
  const one = await holding((trx) => takeConnectionLock(trx, 1));
  const again = await holding((trx) => takeConnectionLock(trx, 1));
  const other = await holding((trx) => takeConnectionLock(trx, 2));
  expect([one.took, again.took, other.took]).toEqual([true, false, true]);
  await Promise.all([one, again, other].map((held) => held.letGo()));
});

test('loads that are sent at once have numbers without a gap, and one that is taken back leaves none', async () => {
  const { work } = fresh.ctx;
  const sent = (name: string) => work.transaction((trx) => insertLoad(trx, load(name)));
  const numbers = await Promise.all(['a', 'b', 'c', 'd'].map(sent));
  const first = Math.min(...numbers);
  expect([...numbers].sort((a, b) => a - b)).toEqual([first, first + 1, first + 2, first + 3]);
  // Whoever comes meanwhile waits for the one before to be kept or taken back.
  const taken = await holding((trx) => insertLoad(trx, load('taken back')));
  const next = sent('next');
  await taken.letGo();
  expect([taken.took, await next]).toEqual([first + 4, first + 4]);
});

test('what is put on record at once is one chain, each entry on the one before', async () => {
  const { work } = fresh.ctx;
  const before = await walkRecord(work);
  const deed = (subject: string) => ({
    person: null,
    personName: 'somebody',
    act: 'signed in' as const,
    subject,
    detail: {},
  });
  const heads = await Promise.all(
    Array.from({ length: 12 }, (_, i) => work.transaction((trx) => addToRecord(trx, deed(`person ${i}`)))),
  );
  expect(new Set(heads.map((h) => h.number)).size).toBe(12);
  const after = await walkRecord(work);
  expect([after.brokenAt, after.number]).toEqual([null, before.number + 12]);
  // What is taken back is no entry, and the next stands on the last that is.
  const undone = await holding((trx) => addToRecord(trx, deed('undone')));
  await undone.letGo();
  const head = await work.transaction((trx) => addToRecord(trx, deed('done')));
  expect([undone.took.number, head.number, (await walkRecord(work)).brokenAt]).toEqual([
    head.number,
    after.number + 1,
    null,
  ]);
});

test('guesses for one e-mail from one place are counted one after the other; others do not wait for them', async () => {
  const { work } = fresh.ctx;
  const guessing = await holding((trx) => takeTriesLock(trx, 'ines@kestrel.example', '10.0.0.1'));
  const got = (email: string, place: string) =>
    work
      .transaction(async (trx) => {
        await trx.raw("set local lock_timeout = '200ms'");
        return takeTriesLock(trx, email, place).then(
          () => 'at once',
          () => 'waits',
        );
      })
      .catch(() => 'waits');
  expect(await got('ines@kestrel.example', '10.0.0.1')).toBe('waits');
  expect(await got('ines@kestrel.example', '10.0.0.2')).toBe('at once');
  expect(await got('tomas@kestrel.example', '10.0.0.1')).toBe('at once');
  await guessing.letGo();
  expect(await got('ines@kestrel.example', '10.0.0.1')).toBe('at once');
});
