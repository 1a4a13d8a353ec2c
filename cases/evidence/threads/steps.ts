import type { z } from 'zod';
import type { stepChangeSchema } from '@/contracts/bodies/all';
import { forbidden, ProblemError } from '@/contracts/problem';
import { keepFormer } from '@/store/formerWords';
import type { StepRow } from '@/store/threads';
import * as store from '@/store/threads';
import type { Context } from '../../asking/context';
import { onRecord } from '../../asking/onRecord';
import { require, type Viewer } from '../../asking/viewer';
import { stepOf } from './seenThreads';
import { showThread } from './shown';
import { heldOpen, mustBeOpen, stepSubject, threadSubject } from './words';

/** Renames or annotates one's own step; what it said before is kept, and shown with it. */
export async function changeStep(
  ctx: Context,
  viewer: Viewer,
  id: number,
  step: number,
  change: z.infer<typeof stepChangeSchema>,
) {
  require(viewer, 'preparer', 'annotate a thread');
  const { thread, steps } = await stepOf(ctx, viewer, id, step);
  mustBeOpen(thread);
  const written = steps.find((k) => k.id === step) as StepRow;
  if (written.person !== viewer.id)
    throw forbidden(
      `These are ${written.person_name}’s words; only they change them. Add a step of your own, or a note`,
    );
  const before = { label: written.label, note: written.note };
  const changed = (change.label ?? written.label) !== written.label || (change.note ?? written.note) !== written.note;
  if (changed) {
    await onRecord(ctx, viewer, async (trx, record) => {
      await heldOpen(trx, id);
      await keepFormer(trx, stepSubject(step), before, viewer.id);
      await store.updateStep(trx, step, change);
      await store.updateThread(trx, id, {});
      await record('annotated a step', threadSubject(id), { step, ...change, before });
    });
  }
  return showThread(ctx, viewer, id);
}

/** Removes a dead end: a step of one's own with all that was traced from it, as long as that is one's own as well. */
export async function removeStep(ctx: Context, viewer: Viewer, id: number, step: number) {
  require(viewer, 'preparer', 'shorten a thread');
  const { thread, steps } = await stepOf(ctx, viewer, id, step);
  mustBeOpen(thread);
  if (steps.filter((k) => k.parent === null).length === 1 && steps.find((k) => k.id === step)?.parent === null) {
    throw new ProblemError(409, 'A thread keeps its first sheet; remove the whole thread instead');
  }
  const other = [step, ...below(step, steps)]
    .map((k) => steps.find((row) => row.id === k) as StepRow)
    .find((k) => k.person !== viewer.id);
  if (other) throw forbidden(`The step “${other.label}” is ${other.person_name}’s; only they take it away`);
  await onRecord(ctx, viewer, async (trx, record) => {
    await heldOpen(trx, id);
    const removed = await store.removeSteps(trx, step);
    await store.updateThread(trx, id, {});
    await record('took steps away', threadSubject(id), { step, removed });
  });
  return showThread(ctx, viewer, id);
}

const below = (step: number, steps: readonly StepRow[]): number[] =>
  steps.filter((k) => k.parent === step).flatMap((k) => [k.id, ...below(k.id, steps)]);
