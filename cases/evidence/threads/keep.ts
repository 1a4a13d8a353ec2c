import type { z } from 'zod';
import type { newThreadSchema, threadChangeSchema } from '@/contracts/bodies';
import type { Db } from '@/store/db';
import { keepFormer } from '@/store/formerWords';
import * as store from '@/store/threads';
import type { Context } from '../../asking/context';
import { onRecord } from '../../asking/onRecord';
import { require, type Viewer } from '../../asking/viewer';
import { own, seen } from './seenThreads';
import { showThread } from './shown';
import { type NewStep, withFigures } from './stepFigure';
import { mustBeOpen, stepDigest, threadSubject } from './words';

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
  mustBeOpen((await seen(ctx, viewer, id)).thread);
  const way = await withFigures(ctx, viewer, steps);
  return onRecord(ctx, viewer, async (trx, record) => {
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

export async function changeThread(
  ctx: Context,
  viewer: Viewer,
  id: number,
  change: z.infer<typeof threadChangeSchema>,
) {
  const { thread } = await own(ctx, viewer, id);
  const renamed = change.name !== undefined && change.name !== thread.name;
  if (renamed && change.state !== 'open') mustBeOpen(thread);
  await onRecord(ctx, viewer, async (trx, record) => {
    if (renamed) await keepFormer(trx, threadSubject(id), { name: thread.name }, viewer.id);
    await store.updateThread(trx, id, change);
    const act =
      change.state === undefined || change.state === thread.state
        ? 'renamed a thread'
        : change.state === 'open'
          ? 'opened a thread again'
          : 'concluded a thread';
    await record(act, threadSubject(id), change);
  });
  return showThread(ctx, viewer, id);
}

export async function removeThread(ctx: Context, viewer: Viewer, id: number): Promise<void> {
  const { thread } = await own(ctx, viewer, id);
  mustBeOpen(thread);
  await onRecord(ctx, viewer, async (trx, record) => {
    await store.updateThread(trx, id, { removed_at: new Date() });
    await record('took a thread away', threadSubject(id), { name: thread.name });
  });
}
