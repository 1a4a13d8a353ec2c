import { afterAll, beforeAll, expect, test } from 'vitest';
import { newExpectationSchema } from '@/contracts/bodies/all';
import { readQuery, scopeShape } from '@/contracts/scope';
import { demoInstallation, demoPerson, type Fresh } from '@/ops/fresh';
import type { Viewer } from '../asking/viewer';
import { readTotals } from '../sheets/readTotals';
import {
  changeExpectation,
  listExpectations,
  removeExpectation,
  showExpectation,
  stateExpectation,
} from './expectations';
import { saveThread } from './threads/keep';
import { showThread } from './threads/shown';

// What figures should be, over the demo world: story 1, a dry-docking invoice that is booked twice.

let fresh: Fresh;
let tomas: Viewer;
let priya: Viewer;
let col: Viewer;
beforeAll(async () => {
  fresh = await demoInstallation();
  [tomas, priya, col] = [
    await demoPerson(fresh, 'tomas'),
    await demoPerson(fresh, 'priya'),
    await demoPerson(fresh, 'col'),
  ];
});
afterAll(() => fresh?.close());

const DOCKING = 'entity=KSF&from=2027.04&to=2027.06&accounts=6320';
const state = (rule: object, more: object = {}) =>
  stateExpectation(
    fresh.ctx,
    tomas,
    newExpectationSchema.parse({
      ...{ subject: `figure:${DOCKING}`, label: 'Dry-docking', reason: 'as every summer', least: '10000.00', rule },
      ...more,
    }),
  );
const movement = async (address: string): Promise<number> =>
  Number((await readTotals(fresh.ctx, tomas, readQuery(scopeShape, new URLSearchParams(address)))).total.movement);

test('the year before: what is more is explained by the lines that were booked twice', async () => {
  const made = await state({ by: 'year-before', percent: '0' });
  expect(made).toMatchObject({
    ...{ expected: '612000.00', actual: '820400.00', difference: '208400.00', left: '208400.00' },
    ...{ state: 'needs explaining', currency: 'GBP', reckoned: 'the year before, GBP 612,000.00' },
  });
  // A year ago it was another dock; the quotation of this year is the better measure.
  const quoted = await changeExpectation(fresh.ctx, tomas, made.id, { rule: { by: 'own', amount: '410200' } });
  expect(quoted).toMatchObject({ expected: '410200.00', difference: '410200.00', state: 'needs explaining' });
  const twice = { text: 'NS-20631 a second time', subject: `figure:${DOCKING}&entry=PI-KSF-90639` };
  const explained = await changeExpectation(fresh.ctx, priya, made.id, { parts: [{ ...twice, measure: 'movement' }] });
  expect(explained).toMatchObject({
    ...{ explained: '410200.00', left: '0.00', state: 'explained' },
    parts: [{ text: 'NS-20631 a second time', amount: '410200.00', typed: false }],
  });
  // A part of somebody's own, which takes some of it back.
  const more = await changeExpectation(fresh.ctx, tomas, made.id, {
    parts: [
      { ...twice, measure: 'movement' },
      { text: 'a rebate that is owed', amount: '-15000.00' },
    ],
    conclusion: 'a credit note is asked for',
  });
  expect(more).toMatchObject({ left: '15000.00', state: 'needs explaining', conclusion: 'a credit note is asked for' });
  expect((await listExpectations(fresh.ctx, priya, { limit: 10 })).rows.map((e) => e.id)).toContain(made.id);
});

test('three percent more, an average, a share, a quantity at a price, and an amount are each what they say', async () => {
  expect((await state({ by: 'year-before', percent: '3' })).expected).toBe('630360.00');
  const months = await Promise.all(
    ['2027.01', '2027.02', '2027.03'].map((p) => movement(`entity=KSF&from=${p}&to=${p}&accounts=6320`)),
  );
  const average = months.reduce((sum, m) => sum + m, 0) / 3;
  const made = await state({ by: 'average', periods: 3, percent: '0' });
  // Three months of the window, each as those before it on average.
  expect(Number(made.expected)).toBeCloseTo(average * 3, 2);
  const other = await movement('entity=KSF&from=2027.04&to=2027.06&accounts=4110');
  const share = await state({
    ...{ by: 'share', of: 'figure:entity=KSF&from=2027.04&to=2027.06&accounts=4110', measure: 'movement' },
    ...{ label: 'Passenger fares', percent: '-12.5' },
  });
  expect(Number(share.expected)).toBeCloseTo(other * -0.125, 2);
  expect(share.reckoned).toMatch(/^-12\.5 % of Passenger fares, GBP -/);
  expect((await state({ by: 'quantity', quantity: '3', price: '204133.33' })).expected).toBe('612399.99');
  const own = await state({ by: 'own', amount: '820400' }, { least: '0' });
  expect(own).toMatchObject({ expected: '820400.00', difference: '0.00', state: 'as expected' });
});

test('an adjustment period counts with the year that it adjusts, and is no period of its own', async () => {
  const year = 'entity=KSF&accounts=type+expense';
  // Of a window that ends with the year's adjustments twelve periods are held against the twelve before.
  const [before, last] = [
    await movement(`${year}&from=2025.01&to=2025.13`),
    await movement(`${year}&from=2025.13&to=2025.13`),
  ];
  expect(before).not.toBe(0);
  const made = await state(
    { by: 'average', periods: 12, percent: '0' },
    { subject: `figure:${year}&from=2026.01&to=2026.13` },
  );
  expect(made.reckoned).toMatch(/^the average of 12 periods before, .*, for 12 periods$/);
  // What the last twelve periods moved by; the adjustments of their year come after the last of them.
  expect(Number(made.expected)).toBeCloseTo(before - last, 2);
});

test('a closing balance is held against the average of closings', async () => {
  const closings = await Promise.all(
    ['2027.04', '2027.05'].map(async (p) =>
      Number(
        (
          await readTotals(
            fresh.ctx,
            tomas,
            readQuery(scopeShape, new URLSearchParams(`entity=KSF&from=${p}&to=${p}&accounts=1520`)),
          )
        ).total.closing,
      ),
    ),
  );
  const made = await state(
    { by: 'average', periods: 2, percent: '0' },
    { subject: 'figure:entity=KSF&from=2027.06&to=2027.06&accounts=1520', measure: 'closing' },
  );
  expect(Number(made.expected)).toBeCloseTo(((closings[0] ?? 0) + (closings[1] ?? 0)) / 2, 2);
});

test('what cannot be reckoned is refused by its place, and nothing is kept of it', async () => {
  const before = (await listExpectations(fresh.ctx, tomas, { limit: 100 })).rows.length;
  const refused = async (rule: object, more: object = {}) =>
    (await state(rule, more).catch((e: { errors: { path: string }[] }) => e)) as { errors: { path: string }[] };
  expect((await refused({ by: 'own', amount: 'much' })).errors).toMatchObject([{ path: 'rule.amount' }]);
  expect((await refused({ by: 'own', amount: '1' }, { least: '-1' })).errors).toMatchObject([{ path: 'least' }]);
  expect(
    (
      await refused(
        { by: 'average', periods: 3, percent: '0' },
        { subject: 'figure:entity=KSF&from=2026-07-01&to=2026-07-31' },
      )
    ).errors,
  ).toMatchObject([{ path: 'rule.by' }]);
  expect(
    (
      await refused({
        ...{
          by: 'share',
          of: 'figure:entity=NHS&from=2027.04&to=2027.06',
          measure: 'movement',
          label: '',
          percent: '1',
        },
      })
    ).errors,
  ).toMatchObject([{ path: 'rule.of' }]);
  expect((await refused({ by: 'own', amount: '1' }, { subject: 'entry:KSF/PI-KSF-90639' })).errors).toMatchObject([
    { path: 'subject' },
  ]);
  expect((await listExpectations(fresh.ctx, tomas, { limit: 100 })).rows.length).toBe(before);
});

test('a reader of two cost centres states none and sees none of whole books; only whoever stated one takes it away', async () => {
  const made = await state({ by: 'own', amount: '1' });
  await expect(showExpectation(fresh.ctx, col, made.id)).rejects.toMatchObject({ status: 404 });
  expect((await listExpectations(fresh.ctx, col, { limit: 100 })).rows).toEqual([]);
  await expect(removeExpectation(fresh.ctx, priya, made.id)).rejects.toMatchObject({ status: 403 });
  await removeExpectation(fresh.ctx, tomas, made.id);
  await expect(showExpectation(fresh.ctx, tomas, made.id)).rejects.toMatchObject({ status: 404 });
});

test('it stands in the thread that it was stated in', async () => {
  const { ctx } = fresh;
  const step = {
    ...{ subject: `figure:${DOCKING}`, measure: 'movement', address: `/lines?${DOCKING}` },
    ...{ label: 'Dry-docking', view: 'sheet' },
  };
  const thread = await saveThread(ctx, tomas, { name: 'Dry-docking', steps: [step] } as never);
  const made = await state({ by: 'year-before', percent: '0' }, { thread: thread.id });
  const { gathered } = await showThread(ctx, tomas, thread.id);
  expect(gathered).toMatchObject([
    { kind: 'expectation', id: made.id, says: 'as every summer', state: 'not concluded' },
  ]);
});
