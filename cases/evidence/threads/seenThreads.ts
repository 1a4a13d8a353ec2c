import { forbidden, notFound } from '@/contracts/problem';
import type { StepRow, ThreadRow } from '@/store/threads';
import * as store from '@/store/threads';
import type { Context } from '../../asking/context';
import { withSeenSubject } from '../../asking/subjects';
import { require, type Viewer } from '../../asking/viewer';

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
export async function allSeen(ctx: Context, viewer: Viewer): Promise<{ thread: ThreadRow; steps: StepRow[] }[]> {
  const threads = await store.listThreads(ctx.write);
  const steps = new Map<number, StepRow[]>(threads.map((t) => [t.id, []]));
  for (const k of await store.stepsOf(ctx.write, [...steps.keys()])) steps.get(k.thread)?.push(k);
  const all = threads.map((thread) => ({ thread, steps: steps.get(thread.id) ?? [] }));
  const visible = await Promise.all(all.map((t) => maySeeAll(ctx, viewer, t.steps)));
  return all.filter((_, i) => visible[i]);
}

const maySeeAll = async (ctx: Context, viewer: Viewer, steps: readonly StepRow[]): Promise<boolean> =>
  (await withSeenSubject(ctx, viewer, steps)).length === steps.length;

/** A thread of which anything is outside the viewer's grant is not there for them. */
export async function seen(ctx: Context, viewer: Viewer, id: number): Promise<{ thread: ThreadRow; steps: StepRow[] }> {
  const thread = await store.readThread(ctx.write, id);
  const steps = thread ? await store.stepsOf(ctx.write, [id]) : [];
  if (!thread || !(await maySeeAll(ctx, viewer, steps))) throw notFound(`Thread ${id}`);
  return { thread, steps };
}

export async function own(ctx: Context, viewer: Viewer, id: number) {
  require(viewer, 'preparer', 'change a thread');
  const found = await seen(ctx, viewer, id);
  if (found.thread.person !== viewer.id)
    throw forbidden(`Only ${found.thread.person_name} can change what this thread says, or take it away`);
  return found;
}

export async function stepOf(ctx: Context, viewer: Viewer, id: number, step: number) {
  const found = await seen(ctx, viewer, id);
  if (!found.steps.some((k) => k.id === step)) throw notFound(`Step ${step} of thread ${id}`);
  return found;
}
