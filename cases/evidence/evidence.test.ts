import { afterAll, beforeAll, expect, test } from 'vitest';
import { evidenceShape } from '@/contracts/questions';
import { readQuery } from '@/contracts/scope';
import { type Fresh, freshInstallation, loadText } from '@/ops/fresh';
import { addEntity } from '../charts/entities';
import { runJobsHere } from '../jobs/runJob';
import { compareLoads } from '../loads/compareLoads';
import { addPerson, changePerson } from '../people/people';
import { listNotes, writeNote } from './notes';
import { brokenPins, listPins, pin, showPin } from './pins';

let fresh: Fresh;
const HEAD = 'entry,line,date,account,debit,credit,description,tax_code,approved_by,due_date,partner_entity';
const asBooked = [
  'J-1,1,2026-04-10,6310,100.00,,Pump,P20,lund,2026-05-10,',
  'J-1,2,2026-04-10,1520,,100.00,Pump,,lund,,',
];
const restated = [
  'J-1,1,2026-04-10,6310,100.00,,Pump,P0,marsh,2026-06-10,NHS',
  'J-1,2,2026-04-10,1520,,100.00,Pump,,marsh,,',
];
const lines = (rows: string[], replaces?: string): Promise<void> =>
  loadText(fresh, [HEAD, ...rows].join('\n'), { kind: 'lines', entity: 'ONE', ...(replaces ? { replaces } : {}) });

beforeAll(async () => {
  fresh = await freshInstallation();
  for (const code of ['ONE', 'NHS'])
    await addEntity(fresh.ctx, fresh.owner, {
      code,
      name: `Company ${code}`,
      currency: 'GBP',
      calendar: { kind: 'monthly', start: '04', adjustmentPeriods: 1 },
      yearEnd: 'derived',
      retainedEarnings: '3120',
    });
  const chart = 'code,name,type\n1520,Bank,asset\n3120,Retained,equity\n6310,Repairs,expense';
  await loadText(fresh, chart, { kind: 'accounts', entity: 'ONE' });
  await lines(asBooked);
  await runJobsHere(fresh.ctx);
});
afterAll(() => fresh?.close());

const SUBJECT = 'line:ONE/J-1/1';

test('a pin says that its line was restated where only its tax code, approver, due date or partner is another', async () => {
  const { ctx, owner } = fresh;
  const kept = await pin(ctx, owner, { subject: SUBJECT, measure: 'movement', address: '/x', label: 'Pump' });
  const figure = { subject: 'figure:entity=ONE&from=2027.01&to=2027.01&accounts=6310', measure: 'closing' as const };
  const whole = await pin(ctx, owner, { ...figure, address: '/x', label: 'Repairs' });
  expect(kept).toMatchObject({ state: 'fresh', digestVersion: 3 });
  await lines(restated, '2027.01');
  await runJobsHere(ctx);
  for (const { id } of [kept, whole]) {
    const now = await showPin(ctx, owner, id);
    expect(now).toMatchObject({ state: 'drifted', change: '0.00', driftTies: true });
    expect(now.drift[0]?.fields.sort()).toEqual(['approved by', 'due date', 'partner company', 'tax code']);
  }
  const compared = await compareLoads(ctx, owner, { from: 2, to: 3, limit: 10, at: 0 });
  expect(compared.counts).toEqual({ added: 0, changed: 2, removed: 0 });
  expect(compared.lines[0]?.fields).toContainEqual({ field: 'taxCode', from: 'P20', to: 'P0' });
  expect(compared.touched.pins.map((p) => p.id)).toEqual([kept.id, whole.id]);
  // The store itself holds what was pinned.
  expect(await brokenPins(ctx, owner)).toEqual([]);
});

test('drift is worked out once for a load, by a job, and not again for every screen', async () => {
  const { ctx, owner, superuser } = fresh;
  const [row] = await superuser('pin_drift').select('pin', 'load').orderBy('pin');
  expect(row).toEqual({ pin: 1, load: 3 });
  // What the job kept is what the screen tells: nothing is worked out beside it.
  await superuser('pin_drift').where({ pin: 1 }).update({ value: 99_900 });
  expect(await showPin(ctx, owner, 1)).toMatchObject({ now: '999.00', driftTies: false });
  await superuser('pin_drift').where({ pin: 1 }).delete();
  expect(await showPin(ctx, owner, 1)).toMatchObject({ now: '100.00', driftTies: true });
});

test('evidence keeps the role of whoever wrote it, and is asked for by subjects, page by page', async () => {
  const { ctx, owner } = fresh;
  const password = 'correct horse battery';
  await addPerson(ctx, owner, {
    email: 'priya@test.example',
    name: 'Priya',
    role: 'reviewer',
    password,
    entities: null,
  });
  const [{ id }] = (await fresh.superuser('person').where({ email: 'priya@test.example' }).select('id')) as [
    { id: number },
  ];
  const priya = { ...owner, id, name: 'Priya', email: 'priya@test.example', role: 'reviewer' as const };
  for (const body of ['one', 'two', 'three'])
    await writeNote(ctx, priya, { subject: SUBJECT, measure: null, address: '', label: 'Pump', body });
  await writeNote(ctx, priya, { subject: 'entry:ONE/J-1', measure: null, address: '', label: 'J-1', body: 'whole' });
  await changePerson(ctx, owner, String(id), { role: 'preparer' });
  const ask = (query: string) => listNotes(ctx, owner, readQuery(evidenceShape, new URLSearchParams(query)));
  const first = await ask(`subject=${SUBJECT}&limit=2`);
  expect(first.rows.map((n) => [n.body, n.ink])).toEqual([
    ['one', 'reviewer'],
    ['two', 'reviewer'],
  ]);
  const rest = await ask(`subject=${SUBJECT}&limit=2&after=${first.next}`);
  expect([rest.rows.map((n) => n.body), rest.next]).toEqual([['three'], null]);
  expect((await ask('entity=ONE')).rows).toHaveLength(4);
  await expect(ask('limit=2')).rejects.toThrow(/whose evidence/);
  expect((await listPins(ctx, owner, { subject: [SUBJECT], limit: 10 })).rows).toHaveLength(1);
});
