import { afterAll, beforeAll, expect, test } from 'vitest';
import { readQuery, scopeShape } from '@/contracts/scope';
import { demoInstallation, type Fresh } from '@/ops/fresh';
import type { Viewer } from '../asking/viewer';
import { compareLoads } from '../loads/compareLoads';
import { signIn, viewerOfSession } from '../people/signIn';
import { readTotals } from '../sheets/readTotals';
import { fanOut } from './threads/fanOut';
import { addToThread, removeThread, saveThread } from './threads/keep';
import { replayThread } from './threads/replay';
import { listThreads, showThread } from './threads/shown';
import { sign } from './threads/signOffs';
import { changeStep, removeStep } from './threads/steps';

// Saved threads over the demo world: kept, forked, walked again, fanned out, and seen by those who may.

let fresh: Fresh;
let as: (who: string) => Promise<Viewer>;
beforeAll(async () => {
  fresh = await demoInstallation();
  as = async (who) =>
    (await viewerOfSession(
      fresh.ctx,
      await signIn(fresh.ctx, `${who}@kestrel.example`, 'harrowick-quay', { address: '127.0.0.1', agent: '' }),
    )) as Viewer;
});
afterAll(() => fresh?.close());

const WINDOW = 'from=2027.04&to=2027.06';
const SCOPE = `entity=KSF&${WINDOW}`;
const sheet = {
  address: `/trial-balance?${SCOPE}`,
  label: 'Trial balance',
  view: 'sheet' as const,
  subject: `figure:${SCOPE}`,
};
const step = (more: string, view: 'split' | 'lines', label: string, by?: string) => ({
  address: `/trial-balance?${SCOPE}&step=${encodeURIComponent(more)}${by ?? ''}`,
  label,
  view,
  subject: `figure:${SCOPE}&${more}`,
  measure: 'movement' as const,
  ...(by ? { by } : {}),
});
const docking = step('accounts=6320', 'split', '6320 Dry-docking', 'dim:vessel');
const maren = step('accounts=6320&dim.vessel=MAREN', 'lines', 'Maren');
const tern = step('accounts=6320&dim.vessel=TERN', 'lines', 'Tern');

const movement = async (query: string): Promise<string> =>
  (await readTotals(fresh.ctx, fresh.owner, readQuery(scopeShape, new URLSearchParams(query)))).total.movement;

test('a way is kept with its figures, a second one forks from it, and a dead end is taken away with all below', async () => {
  const { ctx } = fresh;
  const tomas = await as('tomas');
  const { id } = await saveThread(ctx, tomas, { name: 'Repairs', steps: [sheet, docking, maren] });
  const forked = await addToThread(ctx, tomas, id, [sheet, docking, tern]);
  await addToThread(ctx, tomas, id, [sheet, docking, tern]); // walked again: nothing is added
  const { steps } = await showThread(ctx, tomas, id);
  expect(
    steps.map((k) => [k.label, k.parent === null ? null : steps.find((p) => p.id === k.parent)?.label, k.value]),
  ).toEqual([
    ['Trial balance', null, null],
    ['6320 Dry-docking', 'Trial balance', await movement(`${SCOPE}&accounts=6320`)],
    ['Maren', '6320 Dry-docking', await movement(`${SCOPE}&accounts=6320&dim.vessel=MAREN`)],
    ['Tern', '6320 Dry-docking', await movement(`${SCOPE}&accounts=6320&dim.vessel=TERN`)],
  ]);
  expect(steps.every((k) => !k.moved)).toBe(true);
  const last = forked.steps.at(-1) as number;
  await changeStep(ctx, tomas, id, last, { note: 'not this vessel' });
  expect((await showThread(ctx, tomas, id)).steps.find((k) => k.id === last)?.note).toBe('not this vessel');
  expect((await removeStep(ctx, tomas, id, last)).steps.map((k) => k.label)).toEqual([
    'Trial balance',
    '6320 Dry-docking',
    'Maren',
  ]);
  await expect(removeStep(ctx, tomas, id, steps[0]?.id as number)).rejects.toThrow('keeps its first sheet');
  await sign(ctx, tomas, id, 'preparer');
  await expect(addToThread(ctx, tomas, id, [sheet])).rejects.toThrow('is signed by its preparer; open it again');
});

test('the same steps for another window give what that window has, name who vanished, and say where they cannot be taken', async () => {
  const { ctx, owner } = fresh;
  const { id } = await saveThread(ctx, owner, { name: 'Replayed', steps: [sheet, docking, maren] });
  const year = await replayThread(ctx, owner, id, { from: '2026.04', to: '2026.06' });
  const [, split, lines] = year.steps;
  expect(split).toMatchObject({ now: await movement('entity=KSF&from=2026.04&to=2026.06&accounts=6320') });
  expect(lines).toMatchObject({
    now: await movement('entity=KSF&from=2026.04&to=2026.06&accounts=6320&dim.vessel=MAREN'),
  });
  expect(Number(lines?.now) - Number(lines?.value)).toBeCloseTo(
    Number(lines && 'change' in lines ? lines.change : Number.NaN),
    6,
  );
  const unit = await replayThread(ctx, owner, id, { member: 'vessel:TERN' });
  expect(unit.steps[2]).toMatchObject({ now: await movement(`${SCOPE}&accounts=6320&dim.vessel=TERN`) });
  const nowhere = (await replayThread(ctx, owner, id, { member: 'vessel:NONE' })).steps;
  expect(nowhere.map((k) => [k.now, 'problem' in k && k.problem])).toEqual(
    new Array(3).fill([null, expect.stringContaining('NONE')]),
  );
  await expect(replayThread(ctx, owner, id, {})).rejects.toMatchObject({ status: 422 });
});

test('a thread fanned out over vessels and over cost centres ties to its figures, every member once', async () => {
  const { ctx, owner } = fresh;
  const { id } = await saveThread(ctx, owner, { name: 'Fanned', steps: [sheet, docking, maren] });
  for (const by of ['dim:vessel', 'dim:costcentre']) {
    const { columns, rows } = await fanOut(ctx, owner, id, by);
    expect(columns.map((c) => [c.label, c.tie.ok])).toEqual([
      ['6320 Dry-docking', true],
      ['Maren', true],
    ]);
    expect(new Set(rows.map((r) => r.member)).size).toBe(rows.length);
    const sum = rows.reduce((all, r) => all + Math.round(Number(r.cells[0] ?? 0) * 100), 0);
    expect(sum).toBe(Math.round(Number(columns[0]?.total) * 100));
  }
});

test('a comparison of loads names the threads whose figures it touches, and a reader sees only threads within their grant', async () => {
  const { ctx, owner } = fresh;
  const restated = step('accounts=6310', 'lines', '6310 Repairs');
  const { id } = await saveThread(ctx, owner, { name: 'Touched', steps: [sheet, restated] });
  const other = 'entity=STL&from=2027.04&to=2027.06';
  const apart = { ...sheet, address: `/trial-balance?${other}`, subject: `figure:${other}` };
  const { id: hidden } = await saveThread(ctx, owner, { name: 'Of another company', steps: [apart] });
  const { touched } = await compareLoads(ctx, owner, { from: 6, to: 7, entity: ['KSF'], limit: 1, at: 0 });
  expect(touched.threads.filter((t) => t.id === id)).toEqual([
    expect.objectContaining({ name: 'Touched', steps: ['6310 Repairs'] }),
  ]);
  expect(touched.threads.some((t) => t.id === hidden)).toBe(false);

  // Col sees two cost centres, and so no thread of whole books; a reader of the company sees its own.
  const limited = await as('col');
  expect((await listThreads(ctx, limited)).rows).toEqual([]);
  await expect(showThread(ctx, limited, id)).rejects.toThrow(/is not there, or outside what you may see/);
  const col = { ...limited, members: {} };
  const seen = (await listThreads(ctx, col)).rows.map((t) => t.id);
  expect([seen.includes(id), seen.includes(hidden)]).toEqual([true, false]);
  await expect(showThread(ctx, col, hidden)).rejects.toThrow(/is not there, or outside what you may see/);
  await expect(replayThread(ctx, col, id, { entity: ['STL'] })).resolves.toMatchObject({
    steps: [{ now: null }, { now: null }],
  });
  await expect(saveThread(ctx, col, { name: 'Mine', steps: [sheet] })).rejects.toThrow('may not save a thread');
  await expect(removeThread(ctx, await as('tomas'), id)).rejects.toThrow('Only');
});
