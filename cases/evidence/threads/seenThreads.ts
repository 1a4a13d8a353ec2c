import { forbidden, notFound } from '@/contracts/problem';
import type { KnotRow, ThreadRow } from '@/store/threads';
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
  for (const { thread: t, knots: its } of await allSeen(ctx, viewer)) {
    if (!its.some((k) => k.entities.some((e) => entities.includes(e)))) continue;
    const steps: string[] = [];
    for (const k of its)
      if ((k.measure || k.view === 'entry') && (await touches(k.subject).catch(() => false))) steps.push(k.label);
    if (steps.length > 0) found.push({ id: t.id, name: t.name, by: t.person_name, state: t.state, steps });
  }
  return found;
}

/** Every thread of which the viewer may see every figure, with its knots. */
export async function allSeen(ctx: Context, viewer: Viewer): Promise<{ thread: ThreadRow; knots: KnotRow[] }[]> {
  const threads = await store.listThreads(ctx.write);
  const knots = new Map<number, KnotRow[]>(threads.map((t) => [t.id, []]));
  for (const k of await store.knotsOf(ctx.write, [...knots.keys()])) knots.get(k.thread)?.push(k);
  const all = threads.map((thread) => ({ thread, knots: knots.get(thread.id) ?? [] }));
  const visible = await Promise.all(all.map((t) => maySeeAll(ctx, viewer, t.knots)));
  return all.filter((_, i) => visible[i]);
}

const maySeeAll = async (ctx: Context, viewer: Viewer, knots: readonly KnotRow[]): Promise<boolean> =>
  (await withSeenSubject(ctx, viewer, knots)).length === knots.length;

/** A thread of which anything is outside the viewer's grant is not there for them. */
export async function seen(ctx: Context, viewer: Viewer, id: number): Promise<{ thread: ThreadRow; knots: KnotRow[] }> {
  const thread = await store.readThread(ctx.write, id);
  const knots = thread ? await store.knotsOf(ctx.write, [id]) : [];
  if (!thread || !(await maySeeAll(ctx, viewer, knots))) throw notFound(`Thread ${id}`);
  return { thread, knots };
}

export async function own(ctx: Context, viewer: Viewer, id: number) {
  require(viewer, 'preparer', 'change a thread');
  const found = await seen(ctx, viewer, id);
  if (found.thread.person !== viewer.id)
    throw forbidden(`Only ${found.thread.person_name} can rename this thread, conclude it or take it away`);
  return found;
}

export async function knotOf(ctx: Context, viewer: Viewer, id: number, knot: number) {
  const found = await seen(ctx, viewer, id);
  if (!found.knots.some((k) => k.id === knot)) throw notFound(`Step ${knot} of thread ${id}`);
  return found;
}
