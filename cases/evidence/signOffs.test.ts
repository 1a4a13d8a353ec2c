import fc from 'fast-check';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { ProblemError } from '@/contracts/problem';
import { sha256Text } from '@/core/digest';
import { demoInstallation, type Fresh } from '@/ops/fresh';
import { readThread, signOffsOf, stepsOf } from '@/store/threads';
import type { Viewer } from '../asking/viewer';
import { signIn, viewerOfSession } from '../people/signIn';
import { writeNote } from './notes';
import { changePoint, raisePoint } from './points';
import { contentOf } from './threads/content';
import { addToThread, changeThread, saveThread } from './threads/keep';
import { rollForward } from './threads/rollForward';
import { showThread } from './threads/shown';
import { reopen, showSigned, sign } from './threads/signOffs';
import { tick } from './ticks';

// Who did the work and who reviewed it are two people, and what they signed stays as they signed it (ISA 230.8 to 11, 16).

let fresh: Fresh;
const viewers: Record<string, Viewer> = {};
beforeAll(async () => {
  fresh = await demoInstallation();
  for (const who of ['ines', 'tomas', 'priya', 'col'])
    viewers[who] = (await viewerOfSession(
      fresh.ctx,
      await signIn(fresh.ctx, `${who}@kestrel.example`, 'harrowick-quay', { address: '127.0.0.1', agent: '' }),
    )) as Viewer;
});
afterAll(() => fresh?.close());

const SUBJECT = 'figure:entity=KSF&from=2027.04&to=2027.06&accounts=6320';
const step = (label: string, more = '') => ({
  ...{ address: `/trial-balance?${label}`, label, view: 'sheet' as const, subject: `${SUBJECT}${more}` },
});
const kept = async (by: Viewer): Promise<number> =>
  (await saveThread(fresh.ctx, by, { name: 'Docking', steps: [step('Docking')] })).id;
const as = (who: string): Viewer => viewers[who] as Viewer;

test('a thread is signed by its preparer, then by a reviewer who had no part in it; a change opens it again with a reason', async () => {
  const { ctx } = fresh;
  const id = await kept(as('tomas'));
  await changeThread(ctx, as('tomas'), id, {
    purpose: 'Was docking booked once?',
    assertions: ['occurrence'],
    reference: 'C-3',
    reviewer: as('priya').id,
  });
  await expect(sign(ctx, as('priya'), id, 'reviewer')).rejects.toMatchObject({
    status: 409,
    message: expect.stringMatching(/preparer has not signed/),
  });
  await writeNote(ctx, as('tomas'), {
    subject: SUBJECT,
    address: '',
    label: 'Docking',
    body: 'Two copies of one invoice.',
    thread: id,
  });
  const prepared = await sign(ctx, as('tomas'), id, 'preparer');
  expect(prepared).toMatchObject({
    state: 'prepared',
    signOffs: [{ as: 'preparer', by: 'Tomas Ek', digest: prepared.digest }],
  });
  await expect(sign(ctx, as('tomas'), id, 'reviewer')).rejects.toMatchObject({ status: 403 });
  await expect(sign(ctx, as('col'), id, 'reviewer')).rejects.toMatchObject({ status: 404 });
  await expect(changeThread(ctx, as('tomas'), id, { conclusion: 'later' })).rejects.toMatchObject({ status: 409 });
  await expect(
    writeNote(ctx, as('tomas'), { subject: SUBJECT, address: '', label: 'x', body: 'late', thread: id }),
  ).rejects.toMatchObject({ status: 409 });
  const point = await raisePoint(ctx, as('priya'), {
    subject: `thread:${id}`,
    address: '',
    label: 'C-3',
    body: 'Which copy is right?',
  });
  await expect(sign(ctx, as('priya'), id, 'reviewer')).rejects.toMatchObject({
    status: 409,
    message: expect.stringMatching(/point is not cleared/),
  });
  await changePoint(ctx, as('tomas'), point.id, { state: 'answered', body: 'The first.' });
  await changePoint(ctx, as('priya'), point.id, { state: 'cleared' });
  const signed = await sign(ctx, as('priya'), id, 'reviewer');
  expect(signed).toMatchObject({ state: 'signed', openPoints: 0, hindered: { reviewer: expect.anything() } });
  const first = signed.signOffs[0]?.id as number;
  await expect(changePoint(ctx, as('priya'), point.id, { state: 'open' })).rejects.toMatchObject({ status: 409 });
  const open = await reopen(ctx, as('tomas'), id, 'A third copy came');
  expect(open).toMatchObject({ state: 'changed' });
  expect(open.signOffs.map((s) => s.ended?.reason)).toEqual(['A third copy came', 'A third copy came']);
  await changeThread(ctx, as('tomas'), id, { conclusion: 'Three copies' });
  // What was signed is read as it was.
  expect(await showSigned(ctx, as('ines'), id, first)).toMatchObject({
    holds: true,
    content: { thread: { conclusion: '', reference: 'C-3' }, evidence: [{ kind: 'note', by: 'Tomas Ek' }] },
  });
});

test('the next quarter begins with the steps of this one, its conclusion at hand and nothing concluded', async () => {
  const { ctx } = fresh;
  const id = await kept(as('tomas'));
  await addToThread(ctx, as('tomas'), id, [
    step('Docking'),
    { ...step('Maren', '&dim.vessel=MAREN'), view: 'lines' as never, measure: 'movement' as const },
  ]);
  await changeThread(ctx, as('tomas'), id, {
    conclusion: 'As expected',
    purpose: 'Docking',
    folder: '2027 Q2/Repairs',
  });
  const { threads } = await rollForward(ctx, as('tomas'), {
    threads: [id],
    from: '2027.01',
    to: '2027.03',
    folder: '2027 Q1/Repairs',
  });
  const next = await showThread(ctx, as('tomas'), threads[0]?.id as number);
  expect(next).toMatchObject({
    ...{ state: 'open', purpose: 'Docking', conclusion: '', folder: '2027 Q1/Repairs' },
    rolledFrom: { id, conclusion: 'As expected' },
  });
  expect(next.steps.map((k) => k.label)).toEqual(['Docking', 'Maren']);
  expect(next.steps.every((k) => k.address.includes('from=2027.01') && !k.moved)).toBe(true);
});

/** Acts that people may try in any order; most are refused at most times. */
const ACTS = {
  signAsPreparer: (id: number, who: Viewer) => sign(fresh.ctx, who, id, 'preparer'),
  signAsReviewer: (id: number, who: Viewer) => sign(fresh.ctx, who, id, 'reviewer'),
  reopen: (id: number, who: Viewer) => reopen(fresh.ctx, who, id, 'why'),
  conclude: (id: number, who: Viewer, n: number) => changeThread(fresh.ctx, who, id, { conclusion: `Conclusion ${n}` }),
  goOn: (id: number, who: Viewer, n: number) =>
    addToThread(fresh.ctx, who, id, [step('Docking'), step(`More ${n}`, `&min=${n + 1}`)]),
  note: (id: number, who: Viewer, n: number) =>
    writeNote(fresh.ctx, who, { subject: SUBJECT, address: '', label: 'x', body: `Note ${n}`, thread: id }),
  tick: (id: number, who: Viewer) => tick(fresh.ctx, who, { subjects: [SUBJECT], mark: 'cast', thread: id }),
  raise: (id: number, who: Viewer, n: number) =>
    raisePoint(fresh.ctx, who, { subject: `thread:${id}`, address: '', label: 'x', body: `Point ${n}` }),
  answer: (_: number, who: Viewer, n: number) => changePoint(fresh.ctx, who, n + 1, { state: 'answered', body: 'so' }),
  clear: (_: number, who: Viewer, n: number) => changePoint(fresh.ctx, who, n + 1, { state: 'cleared' }),
} as const;

test('no order of acts has one person sign both ways, or a signature that is not of the content as it was', async () => {
  const { ctx } = fresh;
  const act = fc.tuple(
    fc.constantFrom(...(Object.keys(ACTS) as (keyof typeof ACTS)[])),
    fc.constantFrom('ines', 'tomas', 'priya'),
    fc.nat(4),
  );
  let reviewed = 0;
  await fc.assert(
    fc.asyncProperty(fc.array(act, { minLength: 10, maxLength: 24 }), async (acts) => {
      const id = await kept(as('tomas'));
      const seen = new Map<number, string>();
      for (const [name, who, n] of [
        ...acts,
        ['signAsPreparer', 'tomas', 0],
        ['signAsReviewer', 'priya', 0],
      ] as typeof acts) {
        await ACTS[name](id, as(who), n).catch((error: unknown) => {
          if (!(error instanceof ProblemError)) throw error;
        });
        const thread = await readThread(ctx.write, id);
        const steps = await stepsOf(ctx.write, [id]);
        const signOffs = await signOffsOf(ctx.write, [id]);
        const live = signOffs.filter((s) => s.ended_at === null);
        const [preparer, reviewer] = (['preparer', 'reviewer'] as const).map((a) =>
          live.find((s) => s.signed_as === a),
        );
        expect(live.length).toBe(new Set(live.map((s) => s.person)).size);
        if (reviewer) {
          expect(preparer).toBeDefined();
          expect(steps.some((k) => k.person === reviewer.person)).toBe(false);
        }
        for (const s of signOffs) {
          expect(sha256Text(s.content)).toBe(s.digest);
          expect(seen.get(s.id) ?? s.content).toBe(s.content);
          seen.set(s.id, s.content);
        }
        if (thread && preparer) expect((await contentOf(ctx, thread, steps, 'preparer')).digest).toBe(preparer.digest);
        if (thread && reviewer) {
          expect((await contentOf(ctx, thread, steps, 'reviewer')).digest).toBe(reviewer.digest);
          reviewed += 1;
        }
        expect(thread?.state).toBe(
          reviewer ? 'signed' : preparer ? 'prepared' : signOffs.length > 0 ? 'changed' : 'open',
        );
      }
    }),
    { numRuns: 15, seed: 230 },
  );
  // Were no thread ever reviewed, nothing would have been shown.
  expect(reviewed).toBeGreaterThan(20);
});
