import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { type Context, closeContext, makeContext } from '@/cases/asking/context';
import type { Viewer } from '@/cases/asking/viewer';
import { ownerOf } from '@/cases/people/signIn';
import { readTotals } from '@/cases/sheets/readTotals';
import { totalsShape } from '@/contracts/questions';
import { readQuery, scopeShape } from '@/contracts/scope';
import { connectForWork } from '@/store/db';
import { migrate } from '@/store/migrate';
import { backup, backupsOf, restore } from './backup';
import { demoInstallation, demoPerson, type Fresh, loadText } from './fresh';

let home: Fresh;
let ines: Viewer;
const folder = mkdtempSync(join(tmpdir(), 'just-thread-backup-'));
const file = join(folder, 'all.backup');
const name = `restored_${process.pid}`;
const server = (database: string): string => {
  const url = new URL(process.env.DATABASE_URL as string);
  url.pathname = `/${database}`;
  return url.href;
};
const databaseOf = (url: string): string => new URL(url).pathname.slice(1);

async function asAdmin(act: string): Promise<void> {
  const admin = connectForWork(process.env.DATABASE_URL as string);
  await admin.raw(act).finally(() => admin.destroy());
}

let there: Context;
let hers: Viewer;
beforeAll(async () => {
  home = await demoInstallation();
  ines = await demoPerson(home, 'ines');
  await asAdmin(`create database ${name}`);
  // People work and a load runs meanwhile: the backup is of one moment, with it or without.
  const given = server(databaseOf(home.env.DATABASE_URL as string));
  await Promise.all([
    backup({ ctx: home.ctx, server: null, env: home.env }, given, file),
    loadText(
      home,
      'entry,line,date,account,debit,credit,description\nBU-1,1,2026-09-30,8512,5.00,,Late\nBU-1,2,2026-09-30,8510,,5.00,Late',
      { kind: 'lines', entity: 'KSF' },
    ),
  ]);
}, 120_000);
afterAll(async () => {
  if (there) await closeContext(there);
  await home.close();
  await asAdmin(`drop database if exists ${name} with (force)`);
});

const into = (database: string): NodeJS.ProcessEnv => ({
  ...home.env,
  DATABASE_URL: server(database),
  JUST_THREAD_HOME: join(folder, database),
});

test('a backup that is damaged, cut off or no backup at all is refused before anything is touched', async () => {
  const bytes = readFileSync(file);
  const tried = async (content: Buffer): Promise<unknown> => {
    const path = join(folder, 'damaged.backup');
    writeFileSync(path, content);
    return restore(into(name), path, () => {});
  };
  const flipped = Buffer.from(bytes);
  flipped[Math.floor(bytes.length / 2)] = (flipped[Math.floor(bytes.length / 2)] ?? 0) ^ 1;
  await expect(tried(flipped)).rejects.toThrow(/is not as it was; nothing was touched/);
  await expect(tried(bytes.subarray(0, bytes.length / 3))).rejects.toThrow(/nothing was touched/);
  await expect(tried(Buffer.from('not at all'))).rejects.toThrow(/cannot be read/);
  await expect(
    restore({ ...home.env, DATABASE_URL: server(databaseOf(home.env.DATABASE_URL as string)) }, file, () => {}),
  ).rejects.toThrow('is not empty');
});

test('what is restored passes every check, and answers a thousand questions as before', async () => {
  const said: string[] = [];
  const { faults } = await restore(into(name), file, (text) => said.push(text));
  expect({ faults, said: said.filter((s) => s.startsWith('✗')) }).toEqual({ faults: 0, said: [] });
  expect(said.join('\n')).toContain('✓ pins');
  const { web, work } = await migrate(server(name));
  there = makeContext({ ...into(name), DATABASE_URL: web, JUST_THREAD_WORK_URL: work });
  hers = await ownerOf(there.work);
  const { load } = await readTotals(there, hers, readQuery(totalsShape, new URLSearchParams('entity=KSF')));
  const question = fc.record({
    entity: fc.constantFrom('KSF', 'STL', 'NHS'),
    from: fc.constantFrom('2027.01', '2027.02', '2027.03', '2026.07', '2026-05-10'),
    to: fc.constantFrom('2027.04', '2027.05', '2027.06', '2026.12', '2026-09-12'),
    accounts: fc.constantFrom('', '6*', '1310', 'type income', '1000 to 3999', '62*, except 6210'),
    status: fc.constantFrom('posted', 'all'),
    journal: fc.constantFrom('', 'PI', 'SI'),
  });
  const asked = fc.sample(question, { numRuns: 1_000, seed: 20_261_201 }).map((q) => {
    const params = new URLSearchParams(Object.entries(q).filter(([, value]) => value !== ''));
    params.set('load', String(load));
    return params;
  });
  const answerOf = (ctx: Context, viewer: Viewer, params: URLSearchParams): Promise<unknown> =>
    readTotals(ctx, viewer, readQuery(scopeShape, params)).then(
      ({ sentence, total, tie }) => ({ sentence, total, tie }),
      (error: Error) => error.message,
    );
  const both = await Promise.all([
    Promise.all(asked.map((params) => answerOf(home.ctx, ines, params))),
    Promise.all(asked.map((params) => answerOf(there, hers, params))),
  ]);
  expect(both[1]).toEqual(both[0]);
  expect(both[0].filter((a) => typeof a !== 'string').length).toBeGreaterThan(500);
}, 120_000);

test('a backup is made once a day, and the oldest go once more than are kept are there', () => {
  const of = (day: string): string => `just-thread-2026-12-${day}.backup`;
  expect(backupsOf([], '2026-12-01', 3)).toEqual({ make: of('01'), drop: [] });
  expect(backupsOf([of('01')], '2026-12-01', 3)).toEqual({ make: null, drop: [] });
  expect(backupsOf([of('03'), of('01'), of('02'), 'letters.txt'], '2026-12-04', 3)).toEqual({
    make: of('04'),
    drop: [of('01')],
  });
  expect(backupsOf([of('01'), of('02'), of('03'), of('04')], '2026-12-04', 2)).toEqual({
    make: null,
    drop: [of('01'), of('02')],
  });
});
