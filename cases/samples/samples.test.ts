import fc from 'fast-check';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { newSampleSchema } from '@/contracts/bodies/all';
import { type Item, monetaryUnits } from '@/core/sampling';
import { demoInstallation, demoPerson, type Fresh } from '@/ops/fresh';
import type { Viewer } from '../asking/viewer';
import { saveThread } from '../evidence/threads/keep';
import { showThread } from '../evidence/threads/shown';
import { sign } from '../evidence/threads/signOffs';
import { readLines } from '../sheets/readLines';
import {
  changeSample,
  drawSample,
  evaluateSample,
  planSample,
  redraw,
  removeSample,
  replaceItem,
  sampleTable,
  showSample,
  testItem,
  testItems,
} from './samples';

let fresh: Fresh;
let [tomas, priya, col] = [] as unknown as [Viewer, Viewer, Viewer];
beforeAll(async () => {
  fresh = await demoInstallation();
  [tomas, priya, col] = [
    await demoPerson(fresh, 'tomas'),
    await demoPerson(fresh, 'priya'),
    await demoPerson(fresh, 'col'),
  ];
});
afterAll(() => fresh?.close());

const SCOPE = 'entity=KSF&from=2027.01&to=2027.06&accounts=6310';
const wanted = (more: object) => newSampleSchema.parse({ scope: SCOPE, of: 'lines', method: 'random', ...more });

/** Every line of the figure, read as the ledger shows them. */
async function everyLine(accounts = '6310'): Promise<(Item & { sign: number })[]> {
  const all: (Item & { sign: number })[] = [];
  for (let offset = 0; ; offset += 1000) {
    const { rows } = await readLines(fresh.ctx, tomas, {
      ...{ entity: ['KSF'], from: '2027.01', to: '2027.06', accounts, limit: 1000, offset, dims: {} },
    } as never);
    for (const r of rows as unknown as {
      entity: string;
      entry: string;
      line: number;
      debit: string | null;
      credit: string | null;
    }[]) {
      const amount = Math.round((Number(r.debit ?? 0) - Number(r.credit ?? 0)) * 100);
      all.push({ key: `line:${r.entity}/${r.entry}/${r.line}`, amount, sign: Math.sign(amount) });
    }
    if (rows.length < 1000) return all;
  }
}

test('a plan says what is drawn from, tied to the ledger, and how the size was reckoned; nothing is kept', async () => {
  const { ctx } = fresh;
  const all = await everyLine();
  for (const of of ['lines', 'entries'] as const) {
    const plan = await planSample(ctx, tomas, wanted({ of, size: 10 }));
    expect(plan.tie).toMatchObject({ holds: true, lines: all.length });
    expect(plan.items).toBe(10);
  }
  const units = await planSample(ctx, tomas, wanted({ method: 'monetary-unit', tolerable: '50000.00' }));
  expect(units.interval).toBe((Math.floor(5_000_000 / 2.995732273553991) / 100).toFixed(2));
  expect(units.reckoned).toMatchObject({ is: 'units', tolerable: '50000.00', interval: units.interval });
  const rate = await planSample(ctx, tomas, wanted({ tolerableRate: 0.05 }));
  expect(rate.items).toBe(Math.min(59, all.length));
  await expect(planSample(ctx, tomas, wanted({}))).rejects.toMatchObject({ status: 422 });
  await expect(
    planSample(ctx, tomas, wanted({ method: 'monetary-unit', tolerable: '10.00', expected: '10.00' })),
  ).rejects.toMatchObject({ status: 422 });
  await expect(
    planSample(ctx, tomas, wanted({ method: 'stratified', size: 5, strata: ['100.00', '50.00'] })),
  ).rejects.toMatchObject({ status: 422 });
  expect(await fresh.superuser('sample').count().first()).toEqual({ count: 0 });
});

test('what the database draws is what the core draws of the same lines, of any interval and seed; and comes again', async () => {
  const { ctx } = fresh;
  const all = await everyLine();
  const net = all.reduce((sum, i) => sum + i.amount, 0);
  const own = all.filter((i) => i.sign === Math.sign(net));
  await fc.assert(
    fc.asyncProperty(
      fc.integer({ min: 100_000, max: 9_000_000 }),
      fc.string({ minLength: 1, maxLength: 8 }).map((s) => `s${s.trim()}`),
      async (interval, seed) => {
        const drawn = await drawSample(
          ctx,
          tomas,
          wanted({ method: 'monetary-unit', interval: (interval / 100).toFixed(2), seed }),
        ).catch(() => null);
        const expected = monetaryUnits(own, interval, seed);
        if (drawn === null) return expect(expected.certain.length + expected.drawn.length).toBe(0);
        expect(new Set(drawn.items.filter((i) => i.certain).map((i) => i.subject))).toEqual(new Set(expected.certain));
        expect(new Set(drawn.items.filter((i) => !i.certain).map((i) => i.subject))).toEqual(new Set(expected.drawn));
        expect(await redraw(ctx, tomas, drawn.id)).toEqual({ same: true, items: drawn.items.length });
        await removeSample(ctx, tomas, drawn.id);
      },
    ),
    { numRuns: 12 },
  );
  for (const more of [
    { size: 7 },
    { method: 'systematic', size: 9 },
    { method: 'stratified', size: 20 },
    { method: 'largest', size: 6 },
    { of: 'entries', size: 8 },
    { of: 'documents', size: 5 },
  ]) {
    const one = await drawSample(ctx, tomas, wanted({ ...more, seed: 'abc' }));
    expect(new Set(one.items.map((i) => i.subject)).size).toBe(one.items.length);
    expect(await redraw(ctx, tomas, one.id)).toMatchObject({ same: true });
    const other = await drawSample(ctx, tomas, wanted({ ...more, seed: 'abd' }));
    if (more.method !== 'largest')
      expect(other.items.map((i) => i.subject)).not.toEqual(one.items.map((i) => i.subject));
    if (one.strata) {
      // Strata hold every item once, and each gives as many as it is to.
      expect(one.strata.reduce((n, s) => n + s.count, 0)).toBe(one.population.count);
      for (const item of one.items) {
        const amount = Math.abs(Number(item.amount));
        const at = item.stratum as number;
        expect(amount).toBeGreaterThanOrEqual(Number(one.strata[at]?.from));
        if (one.strata[at + 1]) expect(amount).toBeLessThan(Number(one.strata[at + 1]?.from));
      }
    }
  }
});

test('items are tested, replaced with a reason, evaluated, taken out as a table, and closed with the thread that is signed', async () => {
  const { ctx } = fresh;
  const step = { address: '/trial-balance?x', label: 'Repairs', view: 'sheet' as const, subject: `figure:${SCOPE}` };
  const thread = (await saveThread(ctx, tomas, { name: 'Repairs sampled', steps: [step] })).id;
  const drawn = await drawSample(
    ctx,
    tomas,
    wanted({
      method: 'monetary-unit',
      tolerable: '100000.00',
      seed: '1',
      thread,
      attributes: ['approved'],
      label: '6310',
    }),
  );
  expect((await showThread(ctx, tomas, thread)).gathered).toContainEqual(
    expect.objectContaining({ kind: 'sample', id: drawn.id, state: 'under way' }),
  );
  const before = (await showThread(ctx, tomas, thread)).digest;
  const [first, second] = drawn.items.filter((i) => !i.certain) as [
    (typeof drawn.items)[number],
    (typeof drawn.items)[number],
  ];
  const half = (Number(first.amount) / 2).toFixed(2);
  await testItem(ctx, tomas, drawn.id, {
    subject: first.subject,
    found: half,
    attributes: { approved: false },
    note: 'Half of it is next year’s',
  });
  await expect(
    testItem(ctx, tomas, drawn.id, { subject: first.subject, attributes: { other: true } }),
  ).rejects.toMatchObject({ status: 422 });
  await expect(testItem(ctx, tomas, drawn.id, { subject: 'line:KSF/none/1', found: '1.00' })).rejects.toMatchObject({
    status: 422,
  });
  const evaluation = await evaluateSample(ctx, priya, drawn.id);
  const interval = Number(drawn.interval);
  const tainting = (Number(first.amount) - Number(half)) / Number(first.amount);
  expect(evaluation.errors).toEqual([expect.objectContaining({ subject: first.subject, tainting })]);
  expect(Number(evaluation.projected)).toBeCloseTo(tainting * interval, 1);
  expect(Number(evaluation.basicPrecision)).toBeCloseTo(2.995732 * interval, 0);
  expect(Number(evaluation.upperLimit)).toBeCloseTo((2.995732 + tainting * 1.748132) * interval, 0);
  expect(evaluation.deviationRate).toBe(1);
  expect(evaluation.upperDeviationRate).toBeNull();
  const random = await drawSample(ctx, tomas, wanted({ size: 60, seed: '2' }));
  await testItems(
    ctx,
    tomas,
    random.id,
    random.items.map((i) => ({ subject: i.subject, found: i.amount })),
  );
  // Nothing in sixty: the exact limit at 95 % is 4.87 %.
  expect((await evaluateSample(ctx, tomas, random.id)).upperDeviationRate).toBeCloseTo(0.0487, 4);
  // Another is taken in the place of one whose paper is lost.
  const left = (await everyLine()).find((i) => i.amount !== 0 && !drawn.items.some((d) => d.subject === i.key)) as Item;
  const replaced = await replaceItem(ctx, tomas, drawn.id, {
    subject: second.subject,
    by: left.key,
    why: 'The paper is lost',
  });
  expect(replaced.items.at(-1)).toMatchObject({ subject: left.key, replaces: second.no, why: 'The paper is lost' });
  await expect(
    replaceItem(ctx, tomas, drawn.id, { subject: second.subject, by: left.key, why: 'x' }),
  ).rejects.toMatchObject({ status: 409 });
  expect((await evaluateSample(ctx, tomas, drawn.id)).size).toBe(drawn.size);
  const { stream } = await sampleTable(ctx, tomas, drawn.id);
  let table = '';
  for await (const chunk of stream) table += chunk;
  expect(table.split('\r\n')).toHaveLength(drawn.size + 3);
  expect(table).toContain(`,${half},Half of it is next year’s,no`);
  await changeSample(ctx, tomas, drawn.id, { conclusion: 'Less than is tolerable.' });
  expect((await showThread(ctx, tomas, thread)).digest).not.toBe(before);
  await sign(ctx, tomas, thread, 'preparer');
  await expect(testItem(ctx, tomas, drawn.id, { subject: second.subject, found: '1.00' })).rejects.toMatchObject({
    status: 409,
  });
  // Nobody sees it who does not see the figure, nor draws documents who sees a part of the books.
  await expect(showSample(ctx, col, drawn.id)).rejects.toMatchObject({ status: 404 });
  await expect(planSample(ctx, col, wanted({ of: 'documents', size: 3 }))).rejects.toMatchObject({ status: 403 });
});
