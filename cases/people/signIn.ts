import { randomBytes } from 'node:crypto';
import ipaddr from 'ipaddr.js';
import type { Knex } from 'knex';
import { notFound, ProblemError } from '@/contracts/problem';
import type { Db } from '@/store/db';
import * as store from '@/store/people';
import { addToRecord } from '@/store/record';
import type { Context } from '../asking/context';
import type { Viewer } from '../asking/viewer';
import { hashOf, isRight } from './passwords';
import { subjectOf } from './people';
import { proveSecondFactor } from './secondFactor';
import { digest, secretOf } from './secrets';
import { viewerOf } from './viewerOf';

export const SESSION_HOURS = 12;

/** A session with which nothing was asked for so long has ended. An open screen asks by itself now and then. */
export const IDLE_MINUTES = 30;

/** Where somebody signs in from, and with what; shown to them beside their sessions. */
export interface From {
  address: string;
  agent: string;
}

/** Addresses of one household or office count as one: of IPv6 the network, of IPv4 the address itself. */
export const placeOf = (address: string): string => {
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
export async function mayTry(ctx: Context, email: string, place: string): Promise<number> {
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
export async function signIn(
  ctx: Context,
  email: string,
  password: string,
  from: From,
  /** Of the second factor, where there is one. */
  code?: string,
): Promise<string> {
  const wanted = email.trim().toLowerCase();
  const place = placeOf(from.address);
  const attempt = await mayTry(ctx, wanted, place);
  if (attempt < 0) throw tooMany(-attempt);
  const person = await store.personByEmail(ctx.write, wanted);
  const right = await isRight(person?.password_hash ?? (await decoy()), password, place);
  if (!person || !right || person.suspended_at) throw new ProblemError(401, 'The e-mail or the password is not right');
  await proveSecondFactor(ctx, person, code);
  return openSession(ctx, person, from, {}, (trx) => store.tryWasRight(trx, attempt, wanted, place));
}

/** A session for somebody who has proven who they are. @returns the secret for the cookie; only its hash is kept */
export async function openSession(
  ctx: Context,
  person: Pick<store.PersonRow, 'id' | 'name' | 'email'>,
  from: From,
  /** What else the record says of it. */
  more: Record<string, string>,
  also: (trx: Knex.Transaction) => Promise<unknown> = async () => null,
): Promise<string> {
  const secret = secretOf();
  await ctx.write.transaction(async (trx) => {
    await store.clearSessions(trx, IDLE_MINUTES);
    await also(trx);
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
      detail: { ...more, cameFrom: from.address },
    });
  });
  return secret;
}

export const tooMany = (seconds: number): ProblemError =>
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

/** A viewer for the command line, which whoever runs the machine uses. */
export async function ownerOf(db: Db): Promise<Viewer> {
  const owner = await store.firstOwner(db);
  if (!owner) throw new Error('there is no owner yet; make one with ./just-thread owner EMAIL --name "…"');
  return { ...owner, role: 'owner', entities: null, members: {}, accounts: null };
}
