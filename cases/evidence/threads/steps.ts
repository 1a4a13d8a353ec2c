import type { z } from 'zod';
import type { knotChangeSchema } from '@/contracts/bodies';
import { forbidden, ProblemError } from '@/contracts/problem';
import { keepFormer } from '@/store/formerWords';
import { addToRecord } from '@/store/record';
import type { KnotRow } from '@/store/threads';
import * as store from '@/store/threads';
import type { Context } from '../../asking/context';
import { require, type Viewer } from '../../asking/viewer';
import { knotOf } from './seenThreads';
import { showThread } from './shown';
import { knotSubject, mustBeOpen, recorded } from './words';

/** Renames or annotates one's own step; what it said before is kept, and shown with it. */
export async function changeKnot(
  ctx: Context,
  viewer: Viewer,
  id: number,
  knot: number,
  change: z.infer<typeof knotChangeSchema>,
) {
  require(viewer, 'preparer', 'annotate a thread');
  const { thread, knots } = await knotOf(ctx, viewer, id, knot);
  mustBeOpen(thread);
  const step = knots.find((k) => k.id === knot) as KnotRow;
  if (step.person !== viewer.id)
    throw forbidden(`These are ${step.person_name}’s words; only they change them. Add a step of your own, or a note`);
  const before = { label: step.label, note: step.note };
  const changed = (change.label ?? step.label) !== step.label || (change.note ?? step.note) !== step.note;
  if (changed) {
    await ctx.write.transaction(async (trx) => {
      await keepFormer(trx, knotSubject(knot), before, viewer.id);
      await store.updateKnot(trx, knot, change);
      await store.updateThread(trx, id, {});
      await addToRecord(trx, recorded(viewer, 'annotated a step', id, { knot, ...change, before }));
    });
  }
  return showThread(ctx, viewer, id);
}

/** Takes a dead end away: a step of one's own with all that was traced from it, as long as that is one's own as well. */
export async function removeKnot(ctx: Context, viewer: Viewer, id: number, knot: number) {
  require(viewer, 'preparer', 'shorten a thread');
  const { thread, knots } = await knotOf(ctx, viewer, id, knot);
  mustBeOpen(thread);
  if (knots.filter((k) => k.parent === null).length === 1 && knots.find((k) => k.id === knot)?.parent === null) {
    throw new ProblemError(409, 'A thread keeps its first sheet; take the whole thread away instead');
  }
  const other = [knot, ...below(knot, knots)]
    .map((k) => knots.find((row) => row.id === k) as KnotRow)
    .find((k) => k.person !== viewer.id);
  if (other) throw forbidden(`The step “${other.label}” is ${other.person_name}’s; only they take it away`);
  await ctx.write.transaction(async (trx) => {
    const removed = await store.removeKnots(trx, knot);
    await store.updateThread(trx, id, {});
    await addToRecord(trx, recorded(viewer, 'took steps away', id, { knot, removed }));
  });
  return showThread(ctx, viewer, id);
}

const below = (knot: number, knots: readonly KnotRow[]): number[] =>
  knots.filter((k) => k.parent === knot).flatMap((k) => [k.id, ...below(k.id, knots)]);
