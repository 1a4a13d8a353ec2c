import { listPeople } from '@/store/people';
import type { Context } from '../asking/context';
import type { Viewer } from '../asking/viewer';

/** Whom one can speak to: everybody who may come in but oneself, by name. */
export async function colleagues(ctx: Context, viewer: Viewer) {
  const people = (await listPeople(ctx.write)).filter((p) => p.suspended_at === null && p.id !== viewer.id);
  return { rows: people.map(({ id, name, role }) => ({ id, name, role })) };
}
