import { appendFileSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { demoInstallation, type Fresh } from '@/ops/fresh';
import { rowsOf } from '@/store/db';
import { addToRecord, walkRecord } from '@/store/record';
import { writeNote } from '../evidence/notes';
import { saveThread } from '../evidence/threads/keep';
import { sign } from '../evidence/threads/signOffs';
import { tick } from '../evidence/ticks';
import { runJobsHere } from '../jobs/runJob';
import { check } from './check';

// Somebody who has the database, or the folder of files, changes what was loaded or signed. Each change alone is found,
// and named by the check that should find it; undone, everything holds again.

let fresh: Fresh;
beforeAll(async () => {
  fresh = await demoInstallation();
  await writeNote(fresh.ctx, fresh.owner, {
    subject: 'figure:entity=KSF&accounts=6310&window=year-to-date',
    measure: 'movement',
    address: '/x',
    label: 'Repairs',
    body: 'High',
  });
  const { id } = await saveThread(fresh.ctx, fresh.owner, {
    name: 'Signed',
    steps: [
      { address: '/x', label: 'x', view: 'sheet', subject: 'figure:entity=KSF&accounts=6310&window=year-to-date' },
    ],
  });
  await tick(fresh.ctx, fresh.owner, { subjects: ['figure:entity=KSF&accounts=6310'], mark: 'cast' });
  await sign(fresh.ctx, fresh.owner, id, 'preparer');
  await runJobsHere(fresh.ctx);
});
afterAll(() => fresh?.close());

const faults = async (wanted?: readonly string[]): Promise<string[]> => {
  const found: string[] = [];
  for await (const { what, ok } of check(fresh.ctx, wanted && ((name) => wanted.includes(name))))
    if (!ok) found.push(what);
  return found;
};

const sql = (text: string): Promise<unknown> => fresh.superuser.raw(text) as unknown as Promise<unknown>;
const firstLines = `(entry, line_no) in (select entry, line_no from line where entity = 1 order by entry, line_no limit 5)`;

/** Changes of whoever owns the database: what finds it, the change, and how it is taken back. */
const TAMPERINGS: [found: string, change: string, back: string][] = [
  ['ticks, files and signatures', `update tick set value = value + 1`, `update tick set value = value - 1`],
  [
    'ticks, files and signatures',
    `update sign_off set content = replace(content, '"conclusion":""', '"conclusion":"fine"')`,
    `update sign_off set content = replace(content, '"conclusion":"fine"', '"conclusion":""')`,
  ],
  [
    'line as loaded',
    `update line set description = description || ' ' where ${firstLines}`,
    `update line set description = rtrim(description) where ${firstLines}`,
  ],
  [
    'line as loaded',
    `update line set document = coalesce(document, '') || 'x' where ${firstLines}`,
    `update line set document = nullif(left(document, -1), '') where ${firstLines}`,
  ],
  [
    'line as loaded',
    `update line set posted_by = posted_by + 1 where ${firstLines}`,
    `update line set posted_by = posted_by - 1 where ${firstLines}`,
  ],
  [
    'entry as loaded',
    `update entry set description = description || '!' where id = 5`,
    `update entry set description = left(description, -1) where id = 5`,
  ],
  [
    'budget as loaded',
    'update budget set amount = amount + 100 where id = 3',
    'update budget set amount = amount - 100 where id = 3',
  ],
  [
    'commitment as loaded',
    'update commitment set amount = amount + 1 where id = 1',
    'update commitment set amount = amount - 1 where id = 1',
  ],
  [
    'document as loaded',
    'update document set amount = amount + 1 where id = 7',
    'update document set amount = amount - 1 where id = 7',
  ],
  [
    'document link as loaded',
    'update document_link set applied = applied - 1 where id = 2',
    'update document_link set applied = applied + 1 where id = 2',
  ],
  ['rate as loaded', 'update rate set rate = rate + 1', 'update rate set rate = rate - 1'],
  [
    'scheme caption as loaded',
    `update scheme_caption set name = name || ' too' where id = 1`,
    `update scheme_caption set name = replace(name, ' too', '') where id = 1`,
  ],
  [
    'codes of ledger user',
    `update ledger_user set code = code || '2' where id = 1`,
    `update ledger_user set code = left(code, -1) where id = 1`,
  ],
  ['notes', `update note set body = 'Low' where body = 'High'`, `update note set body = 'High' where body = 'Low'`],
  [
    'steps of threads',
    'update step set value = value + 1 where id = 2',
    'update step set value = value - 1 where id = 2',
  ],
  [
    'steps of threads',
    `update step set note = 'x' where note = '' and id = 1`,
    `update step set note = '' where id = 1`,
  ],
  ['pins', 'update pin set value = value + 1', 'update pin set value = value - 1'],
  [
    'digests of loads',
    `update load_digest set digest = reverse(digest) where what = 'line/1'`,
    `update load_digest set digest = reverse(digest) where what = 'line/1'`,
  ],
  [
    'loads on record',
    `update load set file_digest = reverse(file_digest) where id = 5`,
    `update load set file_digest = reverse(file_digest) where id = 5`,
  ],
];

test('what was loaded or written, changed by whoever owns the database, is found', async () => {
  expect(await faults()).toEqual([]);
  // So many at a time as are found by different checks: each alone is what its check finds.
  for (let left = [...TAMPERINGS]; left.length > 0; ) {
    const round = left.filter(([what], i) => left.findIndex(([other]) => other === what) === i);
    left = left.filter((one) => !round.includes(one));
    for (const [, change] of round) await sql(change);
    expect(await faults()).toEqual(expect.arrayContaining(round.map(([what]) => what)));
    for (const [, , back] of round) await sql(back);
  }
  expect(await faults()).toEqual([]);
}, 300_000);

test('a file that was changed on disk is found, of a load and of a document', async () => {
  const [load] = await rowsOf<{ digest: string }>(
    fresh.ctx.work,
    'select file_digest as digest from load order by id limit 1',
  );
  const [attached] = await rowsOf<{ digest: string }>(fresh.ctx.work, 'select digest from attachment limit 1');
  const paths = [load, attached].map((file) => join(fresh.ctx.files.folder, file?.digest as string)) as [
    string,
    string,
  ];
  const before = paths.map((path) => readFileSync(path));
  const restored = (): void => paths.forEach((path, i) => void writeFileSync(path, before[i] as Buffer));
  const kept = ['loaded files', 'attachments', 'files of evidence'];
  for (const path of paths) appendFileSync(path, ' ');
  expect(await faults(kept)).toEqual(['loaded files', 'attachments']);
  restored();
  rmSync(paths[0]);
  expect(await faults(kept)).toEqual(['loaded files']);
  restored();
  rmSync(paths[1]);
  expect(await faults(kept)).toEqual(['attachments']);
  restored();
  expect(await faults(kept)).toEqual([]);
});

test('a record that was cut at its end, emptied, or made anew is found, since its head was written down outside', async () => {
  const found = (): Promise<string[]> => faults(['record of who did what']);
  await sql('alter table record disable trigger all');
  await sql('create table kept_record as select * from record');
  const restored = async (): Promise<void> => {
    await sql('delete from record');
    await sql('insert into record select * from kept_record');
  };
  await sql('delete from record where id = (select max(id) from record)');
  expect(await found()).toEqual(['record of who did what']);
  await restored();
  await sql('delete from record');
  expect(await found()).toEqual(['record of who did what']);
  await restored();
  await sql('delete from record where id = 4');
  expect(await found()).toEqual(['record of who did what']);
  await restored();
  expect(await found()).toEqual([]);
  // Made anew from an entry on, with hashes that fit: the chain alone would hold.
  const [many] = await rowsOf<{ n: number }>(fresh.superuser, 'select count(*)::integer as n from record where id > 4');
  await sql('delete from record where id > 4');
  for (let i = 0; i < (many?.n ?? 0); i++)
    await fresh.superuser.transaction((trx) =>
      addToRecord(trx, { person: null, personName: 'Nobody', act: 'looked at', subject: 'x', detail: {} }),
    );
  expect((await walkRecord(fresh.superuser)).brokenAt).toBeNull();
  expect(await found()).toEqual(['record of who did what']);
}, 120_000);
