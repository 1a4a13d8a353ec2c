import type { z } from 'zod';
import type { sharingSchema } from '@/contracts/bodies/all';
import { forbidden, wrong } from '@/contracts/problem';
import { FIRST_RIGHTS, RIGHTS, type Right, type SharedKind } from '@/contracts/work';
import type { Db } from '@/store/db';
import { listPeople } from '@/store/people';
import { EVERYBODY, keepSharing, readSharing, type SharingRow } from '@/store/sharing';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import type { Viewer } from '../asking/viewer';
import { tell } from '../mail/tell';

/** Who made a thing that is shared, and who reviews it. */
export interface Makers {
  id: number;
  person: number;
  reviewer?: number | null;
}

/** Whether a right takes another in: whoever may change a thing may comment on it. */
export const goesAsFarAs = (has: Right, wanted: Right): boolean => RIGHTS.indexOf(has) >= RIGHTS.indexOf(wanted);

/**
 * What a viewer may do with a thing, of all that its figures let them see anyway: whoever made it all, owners too, so that
 * nothing is ever without anybody who may share it; who is named as much as was said of them; all others as everybody.
 */
export function rightOf(
  kind: SharedKind,
  viewer: Pick<Viewer, 'id' | 'role'>,
  made: Makers,
  said: readonly SharingRow[],
): Right {
  if (made.person === viewer.id || viewer.role === 'owner') return 'share';
  const of = (person: number): Right | undefined => said.find((s) => s.id === made.id && s.person === person)?.may;
  const has = of(viewer.id) ?? of(EVERYBODY) ?? FIRST_RIGHTS[kind];
  return made.reviewer === viewer.id && !goesAsFarAs(has, 'comment') ? 'comment' : has;
}

/** What a viewer may do with each of some things, by its number. */
export async function rightsOf(
  db: Db,
  kind: SharedKind,
  viewer: Pick<Viewer, 'id' | 'role'>,
  made: readonly Makers[],
): Promise<Map<number, Right>> {
  const said = await readSharing(
    db,
    kind,
    made.map((m) => m.id),
  );
  const byThing = new Map<number, SharingRow[]>();
  for (const row of said) byThing.set(row.id, [...(byThing.get(row.id) ?? []), row]);
  return new Map(made.map((m) => [m.id, rightOf(kind, viewer, m, byThing.get(m.id) ?? [])]));
}

/** What the refusal of a right says, by what was wanted. */
const WANTED: Record<Exclude<Right, 'nothing' | 'open'>, string> = {
  comment: 'comment on it',
  continue: 'go on with it',
  change: 'change what it says',
  share: 'say who may do what with it',
};

/** @throws ProblemError 403 */
export function mustReach(has: Right, wanted: keyof typeof WANTED, name: string, by: string): void {
  if (!goesAsFarAs(has, wanted)) throw forbidden(`“${name}” is ${by}’s; you may not ${WANTED[wanted]}. Ask ${by}`);
}

/** Something that is shared, as a use case that knows it gives it. */
export interface Shared {
  kind: SharedKind;
  made: Makers;
  name: string;
  by: string;
  /** How the record calls it. */
  subject: string;
  /** The screen that shows it. */
  place: string;
}

/** Who may do what with a thing, for whoever may share it. */
export async function showSharing(ctx: Context, viewer: Viewer, { kind, made, name, by }: Shared) {
  const said = await readSharing(ctx.write, kind, [made.id]);
  mustReach(rightOf(kind, viewer, made, said), 'share', name, by);
  const people = (await listPeople(ctx.write)).filter((p) => p.suspended_at === null);
  return {
    by,
    everybody: said.find((s) => s.person === EVERYBODY)?.may ?? FIRST_RIGHTS[kind],
    people: people.flatMap((p) => {
      const named = said.find((s) => s.person === p.id);
      return named ? [{ id: p.id, name: p.name, may: named.may }] : [];
    }),
    /** Who may be named: owners and whoever made it may do all in any case. */
    others: people
      .filter((p) => p.id !== made.person && p.role !== 'owner')
      .map(({ id, name: called }) => ({ id, name: called })),
  };
}

/** Says anew who may do what with a thing; who is newly let in is told. @throws ProblemError */
export async function changeSharing(
  ctx: Context,
  viewer: Viewer,
  shared: Shared,
  { everybody, people }: z.infer<typeof sharingSchema>,
) {
  const { kind, made, name, by, subject, place } = shared;
  const before = await readSharing(ctx.write, kind, [made.id]);
  mustReach(rightOf(kind, viewer, made, before), 'share', name, by);
  const there = await listPeople(ctx.write);
  for (const [i, { id }] of people.entries()) {
    if (!there.some((p) => p.id === id && p.suspended_at === null))
      throw wrong(`people.${i}.id`, 'there is nobody of that number');
    if (people.findIndex((p) => p.id === id) !== i) throw wrong(`people.${i}.id`, 'name everybody once');
  }
  const rows = [
    { person: EVERYBODY, may: everybody },
    ...people.filter((p) => p.id !== made.person).map(({ id, may }) => ({ person: id, may })),
  ];
  const opened = (said: readonly Omit<SharingRow, 'id'>[], person: number): boolean =>
    goesAsFarAs(
      rightOf(
        kind,
        { id: person, role: 'reader' },
        made,
        said.map((s) => ({ ...s, id: made.id })),
      ),
      'open',
    );
  await onRecord(ctx, viewer, async (trx, record) => {
    await keepSharing(trx, kind, made.id, rows);
    await record('said who may do what', subject, {
      name,
      everybody,
      people: Object.fromEntries(rows.slice(1).map((r) => [r.person, r.may])),
    });
    const newly = people
      .map((p) => p.id)
      .filter((id) => opened(rows, id) && !(before.some((b) => b.person === id) && opened(before, id)));
    await tell(trx, viewer, newly, { what: `shared “${name}” with you`, place });
  });
  return showSharing(ctx, viewer, shared);
}
