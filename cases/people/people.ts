import type { z } from 'zod';
import { newPersonSchema, type personChangeSchema } from '@/contracts/bodies/all';
import { forbidden, notFound, ProblemError, wrong } from '@/contracts/problem';
import { selectionOf } from '@/contracts/scope';
import type { Db } from '@/store/db';
import type { SeenPerson } from '@/store/people';
import * as store from '@/store/people';
import { type Context, known } from '../asking/context';
import { given } from '../asking/given';
import { onRecord } from '../asking/onRecord';
import { require, type Viewer } from '../asking/viewer';
import { checkPassword, hashOf } from './passwords';
import { linkFor, secretOf } from './secrets';

export const subjectOf = ({ email }: { email: string }): string => `person ${email}`;

/** Adds a person; the first one of an installation is its owner and is added by the command line. Without a password they choose it themselves, by a link. */
export async function addPerson(ctx: Context, by: Viewer | null, wanted: z.input<typeof newPersonSchema>) {
  const person = newPersonSchema.parse(wanted);
  if (by) require(by, 'owner', 'add people');
  await checkGrant(ctx, person);
  if (person.password !== undefined) checkPassword(person.password, wordsOf(person));
  // Without one, nothing that could be typed is right.
  const password_hash = await hashOf(person.password ?? secretOf());
  const link = await onRecord(ctx, by, async (trx, record) => {
    if (!by && (await store.countPeople(trx)) > 0)
      throw new ProblemError(409, 'There is an owner already; owners add people in Settings');
    const { email, name, role, members, accounts } = person;
    const id = await store.insertPerson(trx, { email, name, role, password_hash, members, accounts }, person.entities);
    if (id === null)
      throw new ProblemError(409, 'The person is there already', [{ path: 'email', message: `${email} is in use` }]);
    await record('added a person', subjectOf({ email }), { name, role, entities: person.entities, members, accounts });
    return person.password === undefined ? linkFor(trx, id) : null;
  });
  const { name, role, entities, members, accounts } = person;
  return { email: person.email.toLowerCase(), name, role, entities, members, accounts, ...(link ? { link } : {}) };
}

export const wordsOf = (person: { name: string; email: string }): string[] => [
  person.name,
  person.email,
  person.email.split('@')[0] ?? '',
  'just thread',
];

interface Grant {
  role: Viewer['role'];
  entities: string[] | null;
  members: Record<string, string[]>;
  accounts: string | null;
}

/** @throws ProblemError for a grant of what is not there, or one that an owner cannot have */
export async function checkGrant(ctx: Context, { role, entities, members, accounts }: Grant): Promise<void> {
  const limited = entities !== null || accounts !== null || Object.keys(members).length > 0;
  // Owners say who sees what, and so could grant themselves whatever they lack.
  if (limited && role === 'owner')
    throw wrong('entities', 'an owner sees all books; only others are limited to a part');
  const { catalogue } = await known(ctx.write);
  selectionOf({ accounts: accounts ?? undefined });
  for (const [dim, codes] of Object.entries(members)) {
    const dimension = catalogue.dimensions.get(dim);
    if (!dimension) throw wrong(`members.${dim}`, `there is no dimension “${dim}”`);
    for (const code of codes)
      if (!dimension.tree.has(code))
        throw wrong(`members.${dim}`, `there is no ${dimension.name.toLowerCase()} “${code}”`);
  }
  for (const code of entities ?? [])
    if (!catalogue.entities.has(code)) throw wrong('entities', `there is no entity ${code}`);
}

export async function people(ctx: Context, viewer: Viewer) {
  require(viewer, 'owner', 'see the list of people');
  return (await store.listPeople(ctx.write)).map(shownPerson);
}

const shownPerson = ({ suspended_at, last_seen, ...person }: SeenPerson) => ({
  ...person,
  active: suspended_at === null,
  suspendedAt: suspended_at?.toISOString() ?? null,
  lastSeen: last_seen?.toISOString() ?? null,
});

/** Who a path means: a number, or “me”. Owners mean anybody, everybody else themselves. @throws ProblemError */
export async function personMeant(ctx: Context, viewer: Viewer, id: string | undefined): Promise<SeenPerson> {
  const wanted = id === 'me' ? viewer.id : /^\d{1,9}$/.test(id ?? '') ? Number(id) : 0;
  if (wanted !== viewer.id && viewer.role !== 'owner') throw forbidden('Only an owner sees to other people');
  const person = await store.personById(ctx.write, wanted);
  if (!person) throw notFound(`Person ${id}`);
  return person;
}

/** Changes what a person may do and see, or suspends them or lets them in again. */
export async function changePerson(
  ctx: Context,
  viewer: Viewer,
  id: string | undefined,
  change: z.infer<typeof personChangeSchema>,
) {
  require(viewer, 'owner', 'change what people may do');
  const person = await personMeant(ctx, viewer, id);
  const { active = person.suspended_at === null, ...grant } = change;
  const before = {
    name: person.name,
    role: person.role,
    entities: person.entities,
    members: person.members,
    accounts: person.accounts,
  };
  const after = { ...before, ...given(grant) };
  if (person.id === viewer.id && (after.role !== 'owner' || !active))
    throw new ProblemError(409, 'Another owner removes your own rights, not you');
  await checkGrant(ctx, after);
  await onRecord(ctx, viewer, async (trx, record) => {
    await store.updatePerson(trx, person.id, {
      ...after,
      suspended_at: active ? null : (person.suspended_at ?? new Date()),
    });
    if (!active) await store.endSessions(trx, person.id);
    await mustHaveOwner(trx);
    if (JSON.stringify(before) !== JSON.stringify(after))
      await record('changed a person', subjectOf(person), { before, after });
    if (active !== (person.suspended_at === null))
      await record(active ? 'let a person in again' : 'suspended a person', subjectOf(person));
  });
  return shownPerson((await store.personById(ctx.write, person.id)) as SeenPerson);
}

/** Removes a person: they may come in no longer, and what they wrote stays theirs. */
export async function removePerson(ctx: Context, viewer: Viewer, id: string | undefined): Promise<void> {
  require(viewer, 'owner', 'remove people');
  const person = await personMeant(ctx, viewer, id);
  if (person.id === viewer.id) throw new ProblemError(409, 'Another owner removes you, not you yourself');
  await onRecord(ctx, viewer, async (trx, record) => {
    await store.removePerson(trx, person.id);
    await mustHaveOwner(trx);
    await record('took a person away', subjectOf(person));
  });
}

async function mustHaveOwner(trx: Db): Promise<void> {
  if (!(await store.firstOwner(trx)))
    throw new ProblemError(409, 'An installation keeps an owner; make another one first');
}
