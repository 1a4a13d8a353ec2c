import { createHash, randomBytes } from 'node:crypto';
import ipaddr from 'ipaddr.js';
import type { Knex } from 'knex';
import type { z } from 'zod';
import { newPersonSchema, newTokenSchema, type personChangeSchema } from '@/contracts/bodies';
import { forbidden, notFound, ProblemError, wrong } from '@/contracts/problem';
import { selectionOf } from '@/contracts/scope';
import type { Db } from '@/store/db';
import type { SeenPerson } from '@/store/people';
import * as store from '@/store/people';
import { addToRecord } from '@/store/record';
import { type Context, known } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { require, type Viewer } from '../asking/viewer';
import { checkPassword, hashOf, isRight } from './passwords';

export const SESSION_HOURS = 12;
/** A session with which nothing was asked for so long has ended. An open screen asks by itself now and then. */
const IDLE_MINUTES = 30;
const RESET_HOURS = 24;

const digest = (secret: string): string => createHash('sha256').update(secret).digest('hex');
const secretOf = (): string => randomBytes(32).toString('base64url');

const viewerOf = (p: SeenPerson): Viewer => ({
  id: p.id,
  name: p.name,
  email: p.email,
  role: p.role,
  entities: p.entities,
  members: p.members,
  accounts: p.accounts,
});

/** Where somebody signs in from, and with what; shown to them beside their sessions. */
export interface From {
  address: string;
  agent: string;
}

/** Addresses of one household or office count as one: of IPv6 the network, of IPv4 the address itself. */
const placeOf = (address: string): string => {
  if (!ipaddr.isValid(address)) return address.slice(0, 64);
  const parsed = ipaddr.process(address);
  return parsed instanceof ipaddr.IPv6
    ? `${parsed.toNormalizedString().split(':').slice(0, 4).join(':')}::/64`
    : parsed.toString();
};

/**
 * How long after the tries before it another one is taken, for one e-mail from one place: a few at once, then each time
 * twice as long, up to five minutes. Nobody is locked out: tries for somebody's e-mail from elsewhere only ever make
 * tries from elsewhere wait.
 */
const FREE_TRIES = 5;
const SLOWEST_SECONDS = 300;
const secondsBefore = (failed: number): number =>
  failed < FREE_TRIES ? 0 : Math.min(SLOWEST_SECONDS, 2 ** (failed - FREE_TRIES + 1));
/** From here on somebody is guessing from many places: whoever comes from a new one waits before the first try (ASVS 4.0.3 2.2.1). */
const GUESSED_AN_HOUR = 100;
const NEW_PLACE_SECONDS = 30;

/**
 * Counts a try before it is verified, so that many at once are counted one after the other.
 * @throws ProblemError 429 with the seconds to wait; such a try is not verified, and does not count
 */
async function mayTry(ctx: Context, email: string, place: string): Promise<number> {
  return ctx.write.transaction(async (trx) => {
    await store.takeTriesLock(trx, email, place);
    const tries = await store.triesOf(trx, email, place);
    const wait = Math.max(
      secondsBefore(tries.failedHere) - tries.secondsSince,
      tries.failedAnywhere >= GUESSED_AN_HOUR && !tries.familiar ? NEW_PLACE_SECONDS - tries.secondsSinceFirst : 0,
    );
    if (wait > 0) {
      // Somebody new who waits is written down once, so that the waiting begins.
      if (tries.failedHere === 0) await store.insertTry(trx, email, place);
      return -Math.ceil(wait);
    }
    return store.insertTry(trx, email, place);
  });
}

/**
 * Opens a session. The answer to a wrong e-mail and to a wrong password is the same, and takes as long.
 * @returns the secret for the cookie; only its hash is kept
 */
export async function signIn(ctx: Context, email: string, password: string, from: From): Promise<string> {
  const wanted = email.trim().toLowerCase();
  const place = placeOf(from.address);
  const attempt = await mayTry(ctx, wanted, place);
  if (attempt < 0) throw tooMany(-attempt);
  const person = await store.personByEmail(ctx.write, wanted);
  const right = await isRight(person?.password_hash ?? (await decoy()), password, place);
  if (!person || !right || person.suspended_at) throw new ProblemError(401, 'The e-mail or the password is not right');
  const secret = secretOf();
  await ctx.write.transaction(async (trx) => {
    await store.clearSessions(trx, IDLE_MINUTES);
    await store.tryWasRight(trx, attempt, wanted, place);
    await store.insertSession(trx, {
      id_hash: digest(secret),
      person: person.id,
      hours: SESSION_HOURS,
      address: from.address.slice(0, 64),
      agent: from.agent.slice(0, 200),
    });
    await addToRecord(trx, {
      person: person.id,
      personName: person.name,
      act: 'signed in',
      subject: subjectOf(person),
      detail: { from: from.address },
    });
  });
  return secret;
}

const tooMany = (seconds: number): ProblemError =>
  new ProblemError(
    429,
    `Too many attempts; wait ${seconds} ${seconds === 1 ? 'second' : 'seconds'} and try again`,
    [],
    null,
    seconds,
  );

let decoyHash: Promise<string> | null = null;
const decoy = (): Promise<string> => {
  decoyHash ??= hashOf(randomBytes(16).toString('hex'));
  return decoyHash;
};

export async function signOut(ctx: Context, secret: string): Promise<void> {
  await store.deleteSession(ctx.write, digest(secret));
}

export async function viewerOfSession(ctx: Context, secret: string): Promise<Viewer | null> {
  const person = await store.personOfSession(ctx.write, digest(secret), IDLE_MINUTES);
  return person && viewerOf(person);
}

export async function viewerOfToken(ctx: Context, token: string): Promise<Viewer | null> {
  const person = await store.personOfToken(ctx.write, digest(token));
  return person && viewerOf(person);
}

/** Whoever asked for a job, as of now. @throws ProblemError if they may come in no longer */
export async function viewerOfPerson(ctx: Context, id: number): Promise<Viewer> {
  const person = await store.personById(ctx.work, id);
  if (!person || person.suspended_at) throw notFound('Whoever asked for this');
  return viewerOf(person);
}

const subjectOf = ({ email }: { email: string }): string => `person ${email}`;

const _done = (
  viewer: Viewer | null,
  act: string,
  person: { email: string },
  detail: Record<string, unknown> = {},
) => ({
  person: viewer?.id ?? null,
  personName: viewer?.name ?? 'command line',
  act,
  subject: subjectOf(person),
  detail,
});

/** A new API token that acts as its owner; only its hash is kept, and it is shown once. */
export async function makeToken(
  ctx: Context,
  email: string,
  wanted: { name?: string; days?: number } = {},
): Promise<string> {
  const person = await store.personByEmail(ctx.write, email);
  if (!person) throw wrong('email', `there is nobody with the e-mail ${email}`);
  return (await newToken(ctx, null, person, newTokenSchema.parse({ name: 'command line', ...wanted }))).token;
}

async function newToken(
  ctx: Context,
  by: Viewer | null,
  person: { id: number; email: string },
  { name, days }: { name: string; days: number },
) {
  const token = `jt_${secretOf()}`;
  const row = await onRecord(ctx, by, async (trx, record) => {
    const added = await store.insertToken(trx, { hash: digest(token), person: person.id, name, days });
    await record('made a token', subjectOf(person), { name, days });
    return added;
  });
  return { token, id: row.id, name, expiresAt: row.expires_at.toISOString() };
}

/** A token of one's own, for scripts. */
export const makeOwnToken = (ctx: Context, viewer: Viewer, wanted: { name: string; days: number }) =>
  newToken(ctx, viewer, viewer, wanted);

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

const wordsOf = (person: { name: string; email: string }): string[] => [
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

async function checkGrant(ctx: Context, { role, entities, members, accounts }: Grant): Promise<void> {
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
    throw new ProblemError(409, 'Another owner takes your own rights away, not you');
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

const given = <T extends object>(change: T): Partial<T> =>
  Object.fromEntries(Object.entries(change).filter(([, value]) => value !== undefined)) as Partial<T>;

/** Takes a person away: they may come in no longer, and what they wrote stays theirs. */
export async function removePerson(ctx: Context, viewer: Viewer, id: string | undefined): Promise<void> {
  require(viewer, 'owner', 'take people away');
  const person = await personMeant(ctx, viewer, id);
  if (person.id === viewer.id) throw new ProblemError(409, 'Another owner takes you away, not you yourself');
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

/** Changes one's own password; all other sessions end. */
export async function changePassword(
  ctx: Context,
  viewer: Viewer,
  secret: string | null,
  wanted: { current: string; password: string },
  from: From,
): Promise<void> {
  const person = await store.personByEmail(ctx.write, viewer.email);
  const place = placeOf(from.address);
  const attempt = await mayTry(ctx, viewer.email, place);
  if (attempt < 0) throw tooMany(-attempt);
  if (!person || !(await isRight(person.password_hash, wanted.current, place)))
    throw wrong('current', 'this is not your password');
  checkPassword(wanted.password, wordsOf(person));
  const password_hash = await hashOf(wanted.password);
  await onRecord(ctx, viewer, async (trx, record) => {
    await store.tryWasRight(trx, attempt, person.email, place);
    await store.setPassword(trx, person.id, password_hash);
    await store.endSessions(trx, person.id, secret === null ? null : digest(secret));
    await record('changed the password', subjectOf(person));
  });
}

/** A link with which a person chooses a new password, once. The owner hands it over; the old password holds until then. */
export async function resetPassword(ctx: Context, viewer: Viewer, id: string | undefined) {
  require(viewer, 'owner', 'reset a password');
  const person = await personMeant(ctx, viewer, id);
  return onRecord(ctx, viewer, async (trx, record) => {
    const link = await linkFor(trx, person.id);
    await record('made a link for a new password', subjectOf(person), { hours: RESET_HOURS });
    return { link, hours: RESET_HOURS };
  });
}

/** The secret is behind the # of the address, which no browser sends and no log has. */
async function linkFor(trx: Knex.Transaction, person: number): Promise<string> {
  const secret = secretOf();
  await store.insertReset(trx, { hash: digest(secret), person, hours: RESET_HOURS });
  return `/new-password#${secret}`;
}

/** Takes such a link up. @throws ProblemError if it is used, too old, or was never made */
export async function takeReset(ctx: Context, wanted: { secret: string; password: string }): Promise<void> {
  await ctx.write.transaction(async (trx) => {
    const person = await store.takeReset(trx, digest(wanted.secret));
    if (!person || person.suspended_at)
      throw new ProblemError(410, 'This link has been used or is too old; ask an owner for another');
    checkPassword(wanted.password, wordsOf(person));
    await store.setPassword(trx, person.id, await hashOf(wanted.password));
    await store.endSessions(trx, person.id);
    await addToRecord(trx, {
      person: person.id,
      personName: person.name,
      act: 'chose a new password',
      subject: subjectOf(person),
      detail: {},
    });
  });
}

/** Sessions of a person, the one that asks among them. */
export async function sessionsOf(ctx: Context, viewer: Viewer, id: string | undefined, secret: string | null) {
  const person = await personMeant(ctx, viewer, id);
  const own = secret === null ? null : digest(secret);
  return {
    rows: (await store.sessionsOf(ctx.write, person.id, IDLE_MINUTES)).map((s) => ({
      id: s.id,
      address: s.address,
      agent: s.agent,
      here: s.id_hash === own,
      createdAt: s.created_at.toISOString(),
      seenAt: s.seen_at.toISOString(),
      expiresAt: s.expires_at.toISOString(),
    })),
  };
}

/** Ends one session of a person, or all of them but the one that asks. */
export async function endSession(
  ctx: Context,
  viewer: Viewer,
  id: string | undefined,
  session: number | null,
  secret: string | null,
): Promise<void> {
  const person = await personMeant(ctx, viewer, id);
  await onRecord(ctx, viewer, async (trx, record) => {
    const ended =
      session === null
        ? await store.endSessions(trx, person.id, secret === null ? null : digest(secret))
        : await store.endSession(trx, person.id, session);
    if (session !== null && ended === 0) throw notFound(`Session ${session}`);
    if (ended > 0) await record('ended sessions', subjectOf(person), { ended });
  });
}

export async function tokensOf(ctx: Context, viewer: Viewer, id: string | undefined) {
  const person = await personMeant(ctx, viewer, id);
  return {
    rows: (await store.tokensOf(ctx.write, person.id)).map((t) => ({
      id: t.id,
      name: t.name,
      expired: t.expires_at.getTime() < Date.now(),
      createdAt: t.created_at.toISOString(),
      expiresAt: t.expires_at.toISOString(),
      usedAt: t.used_at?.toISOString() ?? null,
    })),
  };
}

/** Revokes one token of a person, or all of them. */
export async function revokeToken(
  ctx: Context,
  viewer: Viewer,
  id: string | undefined,
  token: number | null,
): Promise<void> {
  const person = await personMeant(ctx, viewer, id);
  await onRecord(ctx, viewer, async (trx, record) => {
    const names = await store.deleteTokens(trx, person.id, token);
    if (token !== null && names.length === 0) throw notFound(`Token ${token}`);
    if (names.length > 0) await record('revoked tokens', subjectOf(person), { names });
  });
}

/** A viewer for the command line, which whoever runs the machine uses. */
export async function ownerOf(db: Db): Promise<Viewer> {
  const owner = await store.firstOwner(db);
  if (!owner) throw new Error('there is no owner yet; make one with ./just-thread owner EMAIL --name "…"');
  return { ...owner, role: 'owner', entities: null, members: {}, accounts: null };
}
