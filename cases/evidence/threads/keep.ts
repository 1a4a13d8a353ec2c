import type { z } from 'zod';
import type { gatherSchema, newThreadSchema, threadChangeSchema } from '@/contracts/bodies/all';
import { wrong } from '@/contracts/problem';
import { THREAD_WORDS } from '@/contracts/work';
import type { Db } from '@/store/db';
import { gatherEvidence } from '@/store/evidence';
import { keepFormer } from '@/store/formerWords';
import type { ThreadRow } from '@/store/threads';
import * as store from '@/store/threads';
import type { Context } from '../../asking/context';
import { onRecord } from '../../asking/onRecord';
import { require, type Viewer } from '../../asking/viewer';
import { colleagueOf } from '../../people/colleagues';
import { seenPiece } from '../seenEvidence';
import { wordsOf } from '../written';
import { own, reached } from './seenThreads';
import { showThread } from './shown';
import { type NewStep, withFigures } from './stepFigure';
import { heldOpen, mustBeOpen, stepDigest, threadSubject } from './words';

/** Saves a way as a thread of its own. @returns the thread and the ids of its steps along the way */
export async function saveThread(ctx: Context, viewer: Viewer, { name, steps }: z.infer<typeof newThreadSchema>) {
  require(viewer, 'preparer', 'save a thread');
  const way = await withFigures(ctx, viewer, steps);
  return onRecord(ctx, viewer, async (trx, record) => {
    const id = await store.insertThread(trx, name, viewer.id);
    const ids = await store.addWay(trx, id, way, viewer.id);
    await record('saved a thread', threadSubject(id), {
      name,
      steps: ids.length,
      kept: await keptSteps(trx, id, ids, []),
    });
    return { id, steps: ids };
  });
}

/** Adds a way to a thread: what they share is kept once, and where they part the thread forks. */
export async function addToThread(ctx: Context, viewer: Viewer, id: number, steps: NewStep[]) {
  require(viewer, 'preparer', 'go on with a thread');
  mustBeOpen((await reached(ctx, viewer, id, 'continue')).thread);
  const way = await withFigures(ctx, viewer, steps);
  return onRecord(ctx, viewer, async (trx, record) => {
    await heldOpen(trx, id);
    const before = (await store.stepsOf(trx, [id])).map((k) => k.id);
    const ids = await store.addWay(trx, id, way, viewer.id);
    await store.updateThread(trx, id, {});
    await record('went on with a thread', threadSubject(id), {
      steps: ids,
      kept: await keptSteps(trx, id, ids, before),
    });
    return { id, steps: ids };
  });
}

/** Steps that were added, as the record keeps them. */
async function keptSteps(trx: Db, thread: number, ids: readonly number[], before: readonly number[]) {
  const added = (await store.stepsOf(trx, [thread])).filter((k) => ids.includes(k.id) && !before.includes(k.id));
  return Object.fromEntries(added.map((k) => [k.id, { digest: stepDigest(k), label: k.label }]));
}

/** Changes what a thread says; what it said before is kept. @throws ProblemError */
export async function changeThread(
  ctx: Context,
  viewer: Viewer,
  id: number,
  change: z.infer<typeof threadChangeSchema>,
) {
  require(viewer, 'preparer', 'change a thread');
  const { thread } = await reached(ctx, viewer, id, 'change');
  mustBeOpen(thread);
  if (change.reviewer !== undefined && change.reviewer !== null) await mayReview(ctx, thread, change.reviewer);
  const words = await wordsOf(ctx, viewer, THREAD_WORDS, change, thread.written);
  const said = (value: unknown): string =>
    value !== null && typeof value === 'object' ? JSON.stringify(value) : String(value ?? '');
  const changed = Object.entries({ ...change, ...words }).filter(
    ([name, value]) => value !== undefined && said(value) !== said(thread[name as keyof ThreadRow]),
  );
  if (changed.length === 0) return showThread(ctx, viewer, id);
  const before = Object.fromEntries(
    changed
      .filter(([name]) => name !== 'written')
      .map(([name]) => [
        name,
        name === 'reviewer' ? (thread.reviewer_name ?? '') : String(thread[name as keyof ThreadRow] ?? ''),
      ]),
  );
  await onRecord(ctx, viewer, async (trx, record) => {
    await heldOpen(trx, id);
    await keepFormer(trx, threadSubject(id), before, viewer.id);
    await store.updateThread(trx, id, Object.fromEntries(changed));
    await record(
      changed.length === 1 && change.name !== undefined ? 'renamed a thread' : 'changed a thread',
      threadSubject(id),
      {
        ...Object.fromEntries(changed),
        before,
      },
    );
  });
  return showThread(ctx, viewer, id);
}

/** @throws ProblemError where somebody could not review a thread */
async function mayReview(ctx: Context, thread: ThreadRow, reviewer: number): Promise<void> {
  const person = await colleagueOf(ctx, reviewer, 'reviewer');
  if (person.role !== 'reviewer' && person.role !== 'owner')
    throw wrong('reviewer', `${person.name} is a ${person.role}; reviewers and owners review`);
  if (person.id === thread.person) throw wrong('reviewer', `${person.name} kept this thread; somebody else reviews it`);
}

/** Has a thread gather a piece of one's own evidence that is there already. */
export async function gather(
  ctx: Context,
  viewer: Viewer,
  id: number,
  { kind, id: piece }: z.infer<typeof gatherSchema>,
) {
  require(viewer, 'preparer', 'gather evidence in a thread');
  await reached(ctx, viewer, id, 'continue');
  const row = await seenPiece(ctx, viewer, kind, piece);
  await onRecord(ctx, viewer, async (trx, record) => {
    await heldOpen(trx, id);
    await heldOpen(trx, row.thread);
    await gatherEvidence(trx, kind, piece, id);
    await record('gathered evidence in a thread', threadSubject(id), { kind, piece, before: row.thread });
  });
  return showThread(ctx, viewer, id);
}

export async function removeThread(ctx: Context, viewer: Viewer, id: number): Promise<void> {
  const { thread } = await own(ctx, viewer, id);
  mustBeOpen(thread);
  await onRecord(ctx, viewer, async (trx, record) => {
    await heldOpen(trx, id);
    await store.updateThread(trx, id, { removed_at: new Date() });
    await record('took a thread away', threadSubject(id), { name: thread.name });
  });
}
