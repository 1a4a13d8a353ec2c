import { forbidden, notFound } from '@/contracts/problem';
import type { Right } from '@/contracts/work';
import type { StepRow, ThreadRow } from '@/store/threads';
import * as store from '@/store/threads';
import type { Context } from '../../asking/context';
import { withSeenSubject } from '../../asking/subjects';
import { require, type Viewer } from '../../asking/viewer';
import { goesAsFarAs, mustReach, rightsOf, type Shared } from '../../people/sharing';

/** A thread of which the viewer may see every figure, and what they may do with it. */
export interface SeenThread {
  thread: ThreadRow;
  steps: StepRow[];
  may: Right;
}

/** Threads one of whose figures `touches` says yes to. */
export async function threadsTouched(
  ctx: Context,
  viewer: Viewer,
  entities: string[],
  touches: (subject: string) => Promise<boolean>,
) {
  const found: { id: number; name: string; by: string; state: ThreadRow['state']; steps: string[] }[] = [];
  for (const { thread: t, steps: its } of await allSeen(ctx, viewer)) {
    if (!its.some((k) => k.entities.some((e) => entities.includes(e)))) continue;
    const steps: string[] = [];
    for (const k of its)
      if ((k.measure || k.view === 'entry') && (await touches(k.subject).catch(() => false))) steps.push(k.label);
    if (steps.length > 0) found.push({ id: t.id, name: t.name, by: t.person_name, state: t.state, steps });
  }
  return found;
}

/** Every thread of which the viewer may see every figure, with its steps. */
export async function allSeen(ctx: Context, viewer: Viewer): Promise<SeenThread[]> {
  const listed = await store.listThreads(ctx.write);
  const rights = await rightsOf(ctx.write, 'thread', viewer, listed);
  const may = (t: ThreadRow): Right => rights.get(t.id) ?? 'nothing';
  const threads = listed.filter((t) => goesAsFarAs(may(t), 'open'));
  const steps = new Map<number, StepRow[]>(threads.map((t) => [t.id, []]));
  for (const k of await store.stepsOf(ctx.write, [...steps.keys()])) steps.get(k.thread)?.push(k);
  const all = threads.map((thread) => ({ thread, steps: steps.get(thread.id) ?? [], may: may(thread) }));
  const visible = await Promise.all(all.map((t) => maySeeAll(ctx, viewer, t.steps)));
  return all.filter((_, i) => visible[i]);
}

const maySeeAll = async (ctx: Context, viewer: Viewer, steps: readonly StepRow[]): Promise<boolean> =>
  (await withSeenSubject(ctx, viewer, steps)).length === steps.length;

/** A thread of which anything is outside the viewer's grant, or that is not shared with them, is not there for them. */
export async function seen(ctx: Context, viewer: Viewer, id: number): Promise<SeenThread> {
  const thread = await store.readThread(ctx.write, id);
  const steps = thread ? await store.stepsOf(ctx.write, [id]) : [];
  const may = thread ? ((await rightsOf(ctx.write, 'thread', viewer, [thread])).get(id) ?? 'nothing') : 'nothing';
  if (!thread || !goesAsFarAs(may, 'open') || !(await maySeeAll(ctx, viewer, steps))) throw notFound(`Thread ${id}`);
  return { thread, steps, may };
}

/** A thread with which the viewer may do so much. @throws ProblemError 404, 403 */
export async function reached(
  ctx: Context,
  viewer: Viewer,
  id: number,
  wanted: Parameters<typeof mustReach>[1],
): Promise<SeenThread> {
  const found = await seen(ctx, viewer, id);
  mustReach(found.may, wanted, found.thread.name, found.thread.person_name);
  return found;
}

/** @throws ProblemError 403 for a thread that somebody else made */
export async function own(ctx: Context, viewer: Viewer, id: number): Promise<SeenThread> {
  require(viewer, 'preparer', 'take a thread away');
  const found = await seen(ctx, viewer, id);
  if (found.thread.person !== viewer.id) throw forbidden(`Only ${found.thread.person_name} can take this thread away`);
  return found;
}

/** A thread as what is shared. */
export async function sharedThread(ctx: Context, viewer: Viewer, id: number): Promise<Shared> {
  const { thread } = await seen(ctx, viewer, id);
  return {
    ...{ kind: 'thread', made: thread, name: thread.name, by: thread.person_name },
    ...{ subject: `thread ${id}`, place: `/threads/${id}` },
  };
}

export async function stepOf(ctx: Context, viewer: Viewer, id: number, step: number) {
  const found = await seen(ctx, viewer, id);
  if (!found.steps.some((k) => k.id === step)) throw notFound(`Step ${step} of thread ${id}`);
  return found;
}
