import { createHash, randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import type { z } from 'zod';
import { newPersonSchema } from '@/contracts/bodies';
import { ProblemError, wrong } from '@/contracts/problem';
import { selectionOf } from '@/contracts/scope';
import type { Db } from '@/store/db';
import { rowsOf } from '@/store/db';
import { countPeople, insertPerson, listPeople, personByEmail, personOfSession, personOfToken, recentAttempts, type SeenPerson } from '@/store/people';
import { addToRecord } from '@/store/record';
import { type Context, known } from './context';
import { require, type Viewer } from './viewer';

/** Argon2id with the parameters that OWASP's password storage guidance gives as a minimum. */
const ARGON = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };
export const SESSION_HOURS = 12;
const ATTEMPTS_MAX = 8;
const ATTEMPTS_MINUTES = 10;

const digest = (secret: string): string => createHash('sha256').update(secret).digest('hex');

const viewerOf = (p: SeenPerson): Viewer => ({
  ...{ id: p.id, name: p.name, email: p.email, role: p.role },
  ...{ entities: p.entities, members: p.members, accounts: p.accounts },
});

/**
 * Opens a session. The answer to a wrong e-mail and to a wrong password is the same, and takes as long.
 * @returns the secret for the cookie; only its hash is kept
 */
export async function signIn(ctx: Context, email: string, password: string, address: string): Promise<string> {
  const wanted = email.trim().toLowerCase();
  if ((await recentAttempts(ctx.write, wanted, address, ATTEMPTS_MINUTES)) >= ATTEMPTS_MAX) {
    throw new ProblemError(429, `Too many attempts; wait ${ATTEMPTS_MINUTES} minutes and try again`);
  }
  const person = await personByEmail(ctx.write, wanted);
  const right = await verify(person?.password_hash ?? (await decoy()), password).catch(() => false);
  if (!person || !right) {
    await ctx.write('sign_in_attempt').insert({ email: wanted, address });
    throw new ProblemError(401, 'The e-mail or the password is not right');
  }
  const secret = randomBytes(32).toString('base64url');
  await ctx.write.transaction(async (trx) => {
    await trx.raw(`delete from session where expires_at < now()`);
    await trx.raw(`delete from sign_in_attempt where email = ? or at < now() - interval '1 day'`, [wanted]);
    await trx.raw(`insert into session (id_hash, person, expires_at) values (?, ?, now() + make_interval(hours => ?))`, [
      digest(secret),
      person.id,
      SESSION_HOURS,
    ]);
    await addToRecord(trx, { person: person.id, personName: person.name, act: 'signed in', subject: `person ${person.email}`, detail: {} });
  });
  return secret;
}

let decoyHash: Promise<string> | null = null;
const decoy = (): Promise<string> => {
  decoyHash ??= hash(randomBytes(16).toString('hex'), ARGON);
  return decoyHash;
};

export async function signOut(ctx: Context, secret: string): Promise<void> {
  await ctx
    .write('session')
    .where({ id_hash: digest(secret) })
    .delete();
}

export async function viewerOfSession(ctx: Context, secret: string): Promise<Viewer | null> {
  const person = await personOfSession(ctx.write, digest(secret));
  return person && viewerOf(person);
}

export async function viewerOfToken(ctx: Context, token: string): Promise<Viewer | null> {
  const person = await personOfToken(ctx.write, digest(token));
  return person && viewerOf(person);
}

/** A new API token that acts as that person; only its hash is kept. */
export async function makeToken(ctx: Context, email: string): Promise<string> {
  const person = await personByEmail(ctx.write, email);
  if (!person) throw wrong('email', `there is nobody with the e-mail ${email}`);
  const token = `jt_${randomBytes(32).toString('base64url')}`;
  await ctx.write.transaction(async (trx) => {
    await trx('token').insert({ hash: digest(token), person: person.id });
    await addToRecord(trx, { person: person.id, personName: person.name, act: 'made a token', subject: `person ${person.email}`, detail: {} });
  });
  return token;
}

/** Adds a person; the first one of an installation is its owner and is added by the command line. */
export async function addPerson(ctx: Context, by: Viewer | null, wanted: z.input<typeof newPersonSchema>) {
  const person = newPersonSchema.parse(wanted);
  if (by) require(by, 'owner', 'add people');
  const limited = person.entities !== null || person.accounts !== null || Object.keys(person.members).length > 0;
  if (limited && person.role !== 'reader') throw wrong('entities', 'only a reader is limited to a part of the books');
  const { catalogue } = await known(ctx.write);
  selectionOf({ accounts: person.accounts ?? undefined });
  for (const [dim, codes] of Object.entries(person.members)) {
    const dimension = catalogue.dimensions.get(dim);
    if (!dimension) throw wrong(`members.${dim}`, `there is no dimension “${dim}”`);
    for (const code of codes) if (!dimension.tree.has(code)) throw wrong(`members.${dim}`, `there is no ${dimension.name.toLowerCase()} “${code}”`);
  }
  for (const code of person.entities ?? []) if (!catalogue.entities.has(code)) throw wrong('entities', `there is no entity ${code}`);
  const password_hash = await hash(person.password, ARGON);
  await ctx.write.transaction(async (trx) => {
    if (!by && (await countPeople(trx)) > 0) throw new ProblemError(409, 'There is an owner already; owners add people in Settings');
    const { email, name, role, members, accounts } = person;
    if ((await insertPerson(trx, { email, name, role, password_hash, members, accounts }, person.entities)) === null) {
      throw new ProblemError(409, 'The person is there already', [{ path: 'email', message: `${email} is in use` }]);
    }
    await addToRecord(trx, {
      person: by?.id ?? null,
      personName: by?.name ?? 'command line',
      act: 'added a person',
      subject: `person ${email}`,
      detail: { name, role, entities: person.entities, members, accounts },
    });
  });
  const { name, role, entities, members, accounts } = person;
  return { email: person.email.toLowerCase(), name, role, entities, members, accounts };
}

export async function people(ctx: Context, viewer: Viewer): Promise<Omit<SeenPerson, 'id'>[]> {
  require(viewer, 'owner', 'see the list of people');
  return (await listPeople(ctx.write)).map(({ id: _, ...person }) => person);
}

/** A viewer for the command line, which whoever runs the machine uses. */
export async function ownerOf(db: Db): Promise<Viewer> {
  const [owner] = await rowsOf<{ id: number; name: string; email: string }>(db, `select id, name, email from person where role = 'owner' order by id limit 1`);
  if (!owner) throw new Error('there is no owner yet; make one with ./just-thread owner EMAIL --name "…"');
  return { ...owner, role: 'owner', entities: null, members: {}, accounts: null };
}
