import { wrong } from '@/contracts/problem';
import { listPeople, type SeenPerson } from '@/store/people';
import type { Context } from '../asking/context';
import type { Viewer } from '../asking/viewer';

/** Whom one can speak to: everybody who may come in but oneself, by name. */
export async function colleagues(ctx: Context, viewer: Viewer) {
  const people = (await listPeople(ctx.write)).filter((p) => p.suspended_at === null && p.id !== viewer.id);
  return { rows: people.map(({ id, name, role }) => ({ id, name, role })) };
}

/** A colleague who is named by their number, and may come in. @param field what named them @throws ProblemError */
export async function colleagueOf(ctx: Context, id: number, field: string): Promise<SeenPerson> {
  const person = (await listPeople(ctx.write)).find((p) => p.id === id && p.suspended_at === null);
  if (!person) throw wrong(field, 'there is nobody of that number here; choose a colleague');
  return person;
}
