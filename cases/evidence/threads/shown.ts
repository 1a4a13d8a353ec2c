import { type FormerWords, formerWords } from '@/store/formerWords';
import type { StepRow, ThreadRow } from '@/store/threads';
import type { Context } from '../../asking/context';
import type { Viewer } from '../../asking/viewer';
import { allSeen, seen } from './seenThreads';
import { amountOf, type FigureNow, figureOf, problemText } from './stepFigure';
import { stepSubject, threadSubject } from './words';

/** All threads of which the viewer may see every figure. */
export async function listThreads(ctx: Context, viewer: Viewer) {
  return {
    rows: (await allSeen(ctx, viewer)).map(({ thread, steps }) => ({
      ...shownThread(thread, viewer),
      steps: steps.length,
      entities: [...new Set(steps.flatMap((k) => k.entities))],
      address: steps.at(-1)?.address ?? null,
    })),
  };
}

/** One thread with its steps: the figures as they were when the steps were taken, and as they are now. */
export async function showThread(ctx: Context, viewer: Viewer, id: number) {
  const { thread, steps } = await seen(ctx, viewer, id);
  const former = await formerWords(ctx.write, [threadSubject(id), ...steps.map((k) => stepSubject(k.id))]);
  const shown = await Promise.all(
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
  );
  return { ...shownThread(thread, viewer), former: shownFormer(former, threadSubject(id)), steps: shown };
}

const shownFormer = (former: readonly FormerWords[], subject: string) =>
  former
    .filter((f) => f.subject === subject)
    .map((f) => ({ words: f.words, by: f.person_name, at: f.at.toISOString() }));

const movedOf = (step: StepRow, now: FigureNow | string): { moved: boolean } => ({
  moved: typeof now !== 'string' && (now.value !== step.value || (step.lines !== null && now.lines !== step.lines)),
});

const shownThread = (t: ThreadRow, viewer: Viewer) => ({
  id: t.id,
  name: t.name,
  state: t.state,
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
