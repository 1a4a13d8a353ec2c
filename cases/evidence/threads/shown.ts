import { plainText } from '@/contracts/richText';
import { THREAD_WORDS } from '@/contracts/work';
import { exponentOf, formatAmount } from '@/core/money';
import { movedKept } from '@/store/evidence';
import { type FormerWords, formerWords } from '@/store/formerWords';
import type { StepRow, ThreadRow } from '@/store/threads';
import { signOffsOf } from '@/store/threads';
import { type Context, known } from '../../asking/context';
import { withSeenSubject } from '../../asking/subjects';
import { inkOf, seesWhole, type Viewer } from '../../asking/viewer';
import { proposedNumber } from '../../proposals/lines';
import { listReferences } from '../crossReferences';
import { driftsOfPins } from '../drift';
import { movedTicks, tickMarks } from '../ticks';
import { shownWords } from '../written';
import { contentOf, type Gathered, gatheredIn, gatheredInAll, pointsIn, pointsInAll } from './content';
import { hindranceOf, shownSignOff } from './hindrance';
import { allSeen, seen } from './seenThreads';
import { amountOf, type FigureNow, figureOf, hasMoved, problemText } from './stepFigure';
import { stepSubject, threadSubject } from './words';

/** All threads of which the viewer may see every figure, with what is open in each and how much of it has moved. */
export const listThreads = async (ctx: Context, viewer: Viewer) =>
  rowsOfThreads(ctx, viewer, await allSeen(ctx, viewer));

/** The same of threads that are known to be seen. */
export async function rowsOfThreads(ctx: Context, viewer: Viewer, all: Awaited<ReturnType<typeof allSeen>>) {
  const { newest } = await known(ctx.write);
  const ids = all.map((t) => t.thread.id);
  const [signOffs, movedSteps, gathered, points] = await Promise.all([
    signOffsOf(ctx.write, ids),
    movedKept(
      ctx.write,
      'step',
      all.flatMap((t) => t.steps.map((k) => k.id)),
      newest,
    ),
    gatheredInAll(ctx, ids).then((whole) => seenOf(ctx, viewer, whole)),
    pointsInAll(ctx, ids).then((whole) => withSeenSubject(ctx, viewer, whole)),
  ]);
  const drifted = await driftedPins(ctx, viewer, gathered);
  const driftedIn = (thread: number): number =>
    gathered.pin.filter((p) => p.thread === thread && drifted.has(p.id)).length;
  return {
    rows: all.map(({ thread, steps }) => ({
      ...shownThread(thread, viewer),
      steps: steps.length,
      entities: [...new Set(steps.flatMap((k) => k.entities))],
      address: steps.at(-1)?.address ?? null,
      openPoints: points.filter((p) => p.thread === thread.id && p.state !== 'cleared').length,
      moved: steps.filter((k) => movedSteps.get(k.id)).length + driftedIn(thread.id),
      signedBy: signOffs.filter((s) => s.thread === thread.id && s.ended_at === null).map((s) => s.name),
    })),
  };
}

/** Of what a thread gathered that which its reader may see: it may hold more than its steps show. */
async function seenOf(ctx: Context, viewer: Viewer, gathered: Gathered): Promise<Gathered> {
  if (seesWhole(viewer) && viewer.entities === null) return gathered;
  const seen = await Promise.all(
    Object.entries(gathered).map(async ([kind, rows]) => [
      kind,
      await withSeenSubject(ctx, viewer, rows as Gathered[keyof Gathered][number][]),
    ]),
  );
  return Object.fromEntries(seen) as Gathered;
}

async function driftedPins(ctx: Context, viewer: Viewer, { pin }: Gathered): Promise<Set<number>> {
  if (pin.length === 0) return new Set();
  const drifts = await driftsOfPins(ctx, viewer, pin);
  return new Set(pin.filter((p) => (drifts.get(p.id)?.drift.length ?? 0) > 0).map((p) => p.id));
}

/** One thread: the figures of its steps as they were and are, what it says, what it gathered, and who signed it. */
export async function showThread(ctx: Context, viewer: Viewer, id: number) {
  const { thread, steps, may } = await seen(ctx, viewer, id);
  const [former, whole, signOffs] = await Promise.all([
    formerWords(ctx.write, [threadSubject(id), ...steps.map((k) => stepSubject(k.id))]),
    gatheredIn(ctx, id),
    signOffsOf(ctx.write, [id]),
  ]);
  const gathered = await seenOf(ctx, viewer, whole);
  const [shown, points, prepared, drifted] = await Promise.all([
    Promise.all(
      steps.map(async (k) => {
        const now = await figureOf(ctx, viewer, k, {}).catch(problemText);
        return {
          ...shownStep(k),
          mine: k.person === viewer.id,
          former: shownFormer(former, stepSubject(k.id)),
          ...(typeof now === 'string'
            ? { now: null, problem: now }
            : { now: amountOf(now.value, now.currency), sentence: now.sentence }),
          ...movedOf(k, now),
        };
      }),
    ),
    pointsIn(ctx, id).then((all) => withSeenSubject(ctx, viewer, all)),
    contentOf(ctx, thread, steps, 'preparer', whole),
    driftedPins(ctx, viewer, gathered),
  ]);
  const openPoints = points.filter((p) => p.state !== 'cleared').length;
  const openQuestions = whole.question.filter((q) => q.state === 'open').length;
  const now = { digest: prepared.digest, openPoints, openQuestions };
  const live = signOffs.filter((s) => s.ended_at === null);
  const intact = live.every((s) => s.signed_as !== 'preparer' || s.digest === prepared.digest);
  const from = thread.rolled_from === null ? null : await seen(ctx, viewer, thread.rolled_from).catch(() => null);
  return {
    ...shownThread(thread, viewer),
    ...(intact ? {} : { state: 'changed' as const }),
    ...(await shownWords(ctx, viewer, THREAD_WORDS, thread)),
    assertions: thread.assertions,
    may,
    digest: prepared.digest,
    signOffs: signOffs.map(shownSignOff),
    hindered: {
      preparer: hindranceOf(viewer, 'preparer', thread, steps, signOffs, now)?.why ?? null,
      reviewer: hindranceOf(viewer, 'reviewer', thread, steps, signOffs, now)?.why ?? null,
    },
    gathered: await shownGathered(ctx, viewer, gathered, drifted),
    crossReferences:
      gathered.pin.length === 0 ? [] : (await listReferences(ctx, viewer, { thread: id, limit: 5_000 })).rows,
    rolledFrom: from && { id: from.thread.id, name: from.thread.name, conclusion: from.thread.conclusion },
    openPoints,
    moved: shown.filter((k) => k.moved).length + drifted.size,
    former: shownFormer(former, threadSubject(id)),
    steps: shown,
  };
}

/** What a thread gathered, each in a line, in the order in which it came. */
async function shownGathered(ctx: Context, viewer: Viewer, gathered: Gathered, drifted: ReadonlySet<number>) {
  const [{ marks }, moved] = await Promise.all([tickMarks(ctx), movedTicks(ctx, viewer, gathered.tick)]);
  const meaning = new Map(marks.map((m) => [m.code, m.meaning]));
  const line = (kind: keyof Gathered, row: Gathered[keyof Gathered][number], says: string, state: string) => ({
    ...{ kind, id: row.id, subject: row.subject, label: row.label, address: row.address, says, state },
    ...{ by: row.name, ink: inkOf(row.role), at: row.created_at.toISOString() },
  });
  const money = (value: number, currency: string): string => `${currency} ${formatAmount(value, exponentOf(currency))}`;
  return [
    ...gathered.note.map((n) =>
      line('note', n, n.content ? plainText(n.content) : n.body, n.of_kind ? 'an answer' : ''),
    ),
    ...gathered.pin.map((p) => line('pin', p, money(p.value, p.currency), drifted.has(p.id) ? 'drifted' : '')),
    ...gathered.tick.map((t) => line('tick', t, meaning.get(t.mark) ?? t.mark, moved.get(t.id) ? 'drifted' : '')),
    ...gathered.file.map((f) => line('file', f, f.file_name, '')),
    ...gathered.question.map((q) => line('question', q, `${q.receiver_name}: ${q.body}`, q.state)),
    ...gathered.finding.map((f) => line('finding', f, f.title, f.state)),
    ...gathered.run.map((r) => line('run', r, r.title, r.finished_at === null ? 'under way' : 'done')),
    ...gathered.expectation.map((e) =>
      line('expectation', e, e.reason, e.conclusion === '' ? 'not concluded' : 'concluded'),
    ),
    ...gathered.proposed.map((p) => line('proposed', p, `${proposedNumber(p.id)} ${p.title || p.reason}`, p.state)),
    ...gathered.sample.map((s) => line('sample', s, s.title, s.conclusion === '' ? 'under way' : 'concluded')),
  ].sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : a.id - b.id));
}

const shownFormer = (former: readonly FormerWords[], subject: string) =>
  former
    .filter((f) => f.subject === subject)
    .map((f) => ({ words: f.words, by: f.person_name, at: f.at.toISOString() }));

const movedOf = (step: StepRow, now: FigureNow | string): { moved: boolean } => ({
  moved: typeof now !== 'string' && hasMoved(step, now),
});

const shownThread = (t: ThreadRow, viewer: Viewer) => ({
  id: t.id,
  name: t.name,
  state: t.state,
  reference: t.reference,
  folder: t.folder,
  reviewer: t.reviewer === null ? null : { id: t.reviewer, name: t.reviewer_name ?? '' },
  by: t.person_name,
  mine: t.person === viewer.id,
  at: t.created_at.toISOString(),
  changed: t.changed_at.toISOString(),
});

export const shownStep = (k: StepRow) => ({
  id: k.id,
  parent: k.parent,
  address: k.address,
  label: k.label,
  view: k.view,
  by: k.split_by,
  measure: k.measure,
  note: k.note,
  load: k.load,
  currency: k.currency,
  value: k.currency === null ? null : amountOf(k.value, k.currency),
  lines: k.lines,
  who: k.person_name,
  at: k.created_at.toISOString(),
});
