import { afterAll, beforeAll, expect, test } from 'vitest';
import { newFindingSchema } from '@/contracts/bodies/all';
import { demoInstallation, demoPerson, type Fresh } from '@/ops/fresh';
import { looked, writeLooks } from '../asking/looked';
import type { Viewer } from '../asking/viewer';
import { writeFinding } from '../evidence/findings';
import { writeNote } from '../evidence/notes';
import { tick } from '../evidence/ticks';
import { readLines } from '../sheets/readLines';
import { readRecord, recordTable } from './readRecord';

let fresh: Fresh;
let tomas: Viewer;
let priya: Viewer;
beforeAll(async () => {
  fresh = await demoInstallation();
  tomas = await demoPerson(fresh, 'tomas');
  priya = await demoPerson(fresh, 'priya');
});
afterAll(() => fresh?.close());

const QUARTER = 'entity=KSF&from=2027.04&to=2027.06';
const at = (subject: string) => ({ subject, address: '/lines', label: 'it' });

test('everything about an account is found, however it was named; and nothing about another', async () => {
  const { ctx } = fresh;
  const { rows } = await readLines(ctx, tomas, {
    ...{ entity: ['KSF'], from: '2027.04', to: '2027.06', accounts: '6320', limit: 3, dims: {} },
  } as never);
  const { entity, entry, line: number } = rows[0] as { entity: string; entry: string; line: number };
  const line = { subject: `line:${entity}/${entry}/${number}` };
  const before = (await readRecord(ctx, priya, { limit: 1 })).head.number;
  await writeNote(ctx, tomas, { ...at(`figure:${QUARTER}&accounts=6300 to 6399`), body: 'a range' });
  await writeNote(ctx, tomas, { ...at(`figure:${QUARTER}&accounts=63*`), body: 'a pattern' });
  await writeNote(ctx, tomas, { ...at(`figure:${QUARTER}&accounts=6320`), body: 'itself' });
  await writeNote(ctx, tomas, { ...at(line.subject), body: 'a line of it' });
  await tick(ctx, tomas, {
    ...at(''),
    subjects: [line.subject, `figure:${QUARTER}&accounts=6310`],
    labels: ['a', 'b'],
    measure: 'movement',
    mark: 'cast',
    thread: null,
  } as never);
  for (const accounts of ['6320', '6300 to 6399', '6310'])
    looked(ctx, tomas, new URL(`http://x/api/v1/lines?${new URLSearchParams({ entity: 'KSF', accounts })}`));
  await writeLooks(ctx);
  await writeNote(ctx, tomas, { ...at(`figure:${QUARTER}&accounts=6310`), body: 'another account' });
  await writeNote(ctx, tomas, { ...at(`figure:${QUARTER}&accounts=63* except 6320`), body: 'all but it' });
  const found = await writeFinding(
    ctx,
    tomas,
    newFindingSchema.parse({ title: 'Twice', kind: 'error', subjects: [line.subject] }),
  );
  await writeNote(ctx, tomas, { ...at(`finding:${found.id}`), body: 'on a finding about it' });
  const about = async (words: string, more = {}) => {
    const found = await readRecord(ctx, priya, { limit: 100, about: words, ...more });
    return found.rows.filter((r) => r.number > before);
  };
  expect((await about('account 6320')).map((r) => r.detail.body ?? r.act)).toEqual([
    'on a finding about it',
    'wrote a finding',
    'looked at',
    'ticked',
    'a line of it',
    'itself',
    'a pattern',
    'a range',
  ]);
  expect((await about('ACCOUNT 6320', { act: 'ticked' })).map((r) => r.act)).toEqual(['ticked']);
  expect((await about('all but it')).map((r) => r.detail.body)).toEqual(['all but it']);
  expect(await about('account 9999')).toEqual([]);
  // Page by page it is the same.
  const pages: number[] = [];
  for (let after: string | undefined; ; ) {
    const page = await readRecord(ctx, priya, { limit: 2, about: 'account 6320', ...(after ? { after } : {}) });
    pages.push(...page.rows.map((r) => r.number));
    if (page.next === null) break;
    after = page.next;
  }
  const all = (await readRecord(ctx, priya, { limit: 1000, about: 'account 6320' })).rows.map((r) => r.number);
  expect(pages).toEqual(all);
  await expect(readRecord(ctx, tomas, { limit: 1 })).rejects.toMatchObject({ status: 403 });
  // As a table it is all of it, and that it left is on record.
  const { stream } = await recordTable(ctx, priya, { limit: 1, about: 'account 6320' });
  let text = '';
  for await (const chunk of stream) text += chunk;
  const numbers = text
    .split('\r\n')
    .slice(1, -1)
    .map((row) => Number(row.split(',')[0]));
  expect(numbers).toEqual(all);
  expect((await readRecord(ctx, priya, { limit: 1 })).rows[0]).toMatchObject({ act: 'exported', subject: 'record' });
});
