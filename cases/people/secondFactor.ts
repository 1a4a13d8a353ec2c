import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Secret, TOTP } from 'otpauth';
import type { z } from 'zod';
import type { secondFactorChangeSchema, secondFactorRuleSchema } from '@/contracts/bodies/all';
import { notFound, ProblemError, wrong } from '@/contracts/problem';
import type { Db } from '@/store/db';
import { type PersonRow, personByEmail } from '@/store/people';
import * as store from '@/store/secondFactors';
import { keepSetting, readSetting } from '@/store/settings';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { require, type Viewer } from '../asking/viewer';
import { personMeant, subjectOf } from './people';

/** Time-based one-time codes of six digits, a new one every thirty seconds (RFC 6238). */
const PERIOD = 30;
const SECRET_BYTES = 20;
/** A clock may be so many steps off, either way. */
const STEPS_OFF = 1;

const SETTING = 'second-factor';
type Required = z.infer<typeof secondFactorRuleSchema>['required'];

/** The key that secrets are encrypted by lies in the state folder and not in the database: whoever has a copy of one has no codes. */
function keyOf(ctx: Context): Buffer {
  const path = join(ctx.home, 'second-factor.key');
  try {
    return readFileSync(path);
  } catch {
    mkdirSync(ctx.home, { recursive: true, mode: 0o700 });
    try {
      writeFileSync(path, randomBytes(32), { mode: 0o600, flag: 'wx' });
    } catch {
      // Another process was first; theirs is the key.
    }
    return readFileSync(path);
  }
}

function encrypted(ctx: Context, text: string): string {
  const nonce = randomBytes(12);
  const cipher = createCipheriv('aes-256-gcm', keyOf(ctx), nonce);
  const bytes = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
  return [nonce, cipher.getAuthTag(), bytes].map((b) => b.toString('base64')).join('.');
}

/** @throws ProblemError where the key is another than it was encrypted by */
function decrypted(ctx: Context, text: string): string {
  const [nonce, tag, bytes] = text.split('.').map((b) => Buffer.from(b, 'base64')) as [Buffer, Buffer, Buffer];
  try {
    const decipher = createDecipheriv('aes-256-gcm', keyOf(ctx), nonce);
    decipher.setAuthTag(tag);
    return Buffer.concat([decipher.update(bytes), decipher.final()]).toString('utf8');
  } catch {
    throw new ProblemError(
      409,
      'The second factor cannot be read here: its key is not in this state folder; ask an owner to take it away',
    );
  }
}

const codesOf = (secret: string, email: string): TOTP =>
  new TOTP({ issuer: 'Just Thread', label: email, secret: Secret.fromBase32(secret), period: PERIOD });

const ruleOf = async (db: Db): Promise<Required> =>
  (await readSetting<{ required: Required }>(db, SETTING))?.required ?? 'nobody';

const isRequired = (rule: Required, role: Viewer['role']): boolean =>
  rule === 'everybody' || (rule === 'owners' && role === 'owner');

/** A secret that nothing is proven by yet, with the address that an app reads it from. */
async function begun(ctx: Context, person: number, email: string): Promise<{ secret: string; uri: string }> {
  const secret = new Secret({ size: SECRET_BYTES }).base32;
  await store.beginFactor(ctx.write, person, encrypted(ctx, secret));
  return { secret, uri: codesOf(secret, email).toString() };
}

/** Whether a code is right now, and was not given before. */
async function isRightCode(
  ctx: Context,
  db: Db,
  factor: store.FactorRow,
  email: string,
  code: string,
): Promise<boolean> {
  const token = code.replace(/\s/g, '');
  if (!/^\d{6}$/.test(token)) return false;
  const off = codesOf(decrypted(ctx, factor.secret), email).validate({ token, window: STEPS_OFF });
  if (off === null) return false;
  return store.takeStep(db, factor.person, Math.floor(Date.now() / 1000 / PERIOD) + off);
}

/**
 * Whoever has given the right password proves what else they hold, where they do or must. A wrong code counts as a wrong
 * password does; asking for one is no success either. @throws ProblemError
 */
export async function proveSecondFactor(ctx: Context, person: PersonRow, code: string | undefined): Promise<void> {
  const factor = await store.factorOf(ctx.write, person.id);
  const confirmed = factor !== null && factor.confirmed_at !== null;
  if (!confirmed && !isRequired(await ruleOf(ctx.write), person.role)) return;
  if (factor !== null && code !== undefined && code !== '') {
    if (await isRightCode(ctx, ctx.write, factor, person.email, code)) return;
    throw new ProblemError(401, 'The code is not right', [
      { path: 'code', message: 'This code is not right, or was given before; wait for the next one' },
    ]);
  }
  if (confirmed)
    throw new ProblemError(401, 'A code is needed', [
      { path: 'code', message: 'Give the code that your app shows now' },
    ]);
  const { uri } = await begun(ctx, person.id, person.email);
  throw new ProblemError(401, 'A second factor is required here', [{ path: 'setUp', message: uri }]);
}

/** Whether the viewer has a second factor, and whether they must. */
export async function secondFactorOf(ctx: Context, viewer: Viewer) {
  const factor = await store.factorOf(ctx.write, viewer.id);
  return {
    on: factor !== null && factor.confirmed_at !== null,
    required: isRequired(await ruleOf(ctx.write), viewer.role),
  };
}

/** Begins a second factor of one's own; it counts from the first right code on. */
export async function beginSecondFactor(ctx: Context, viewer: Viewer) {
  if ((await secondFactorOf(ctx, viewer)).on)
    throw new ProblemError(409, 'You have a second factor; take it away first, with a code of it');
  return begun(ctx, viewer.id, viewer.email);
}

/** Confirms one's own second factor by its first code, or with one takes it away. */
export async function changeSecondFactor(
  ctx: Context,
  viewer: Viewer,
  { code, off }: z.infer<typeof secondFactorChangeSchema>,
): Promise<void> {
  const factor = await store.factorOf(ctx.write, viewer.id);
  if (!factor) throw new ProblemError(409, 'There is none yet; begin one first');
  if (off && isRequired(await ruleOf(ctx.write), viewer.role))
    throw new ProblemError(409, 'A second factor is required of you here');
  await onRecord(ctx, viewer, async (trx, record) => {
    if (!(await isRightCode(ctx, trx, factor, viewer.email, code)))
      throw wrong('code', 'this code is not right, or was given before; wait for the next one');
    if (off) await store.endFactor(trx, viewer.id);
    await record(off ? 'took a second factor away' : 'set up a second factor', subjectOf(viewer));
  });
}

/** Takes somebody's second factor away, who has lost what they held. */
export async function endSecondFactor(ctx: Context, viewer: Viewer, id: string | undefined): Promise<void> {
  require(viewer, 'owner', 'take a second factor away');
  const person = await personMeant(ctx, viewer, id);
  if (person.id === viewer.id)
    throw new ProblemError(
      409,
      'Take your own away on your page, with a code of it; or on the machine, with ./just-thread second-factor',
    );
  await onRecord(ctx, viewer, async (trx, record) => {
    await store.endFactor(trx, person.id);
    await record('took a second factor away', subjectOf(person));
  });
}

/** Of whom a second factor is required. */
export const secondFactorRule = async (ctx: Context) => ({ required: await ruleOf(ctx.write) });

export async function setSecondFactorRule(ctx: Context, viewer: Viewer, rule: z.infer<typeof secondFactorRuleSchema>) {
  require(viewer, 'owner', 'say of whom a second factor is required');
  await onRecord(ctx, viewer, async (trx, record) => {
    await keepSetting(trx, SETTING, rule, viewer.name);
    await record('said of whom a second factor is required', 'setting second-factor', rule);
  });
  return rule;
}

/** The same from the command line, for an owner who has lost their own. */
export async function dropSecondFactor(ctx: Context, email: string): Promise<void> {
  const person = await personByEmail(ctx.write, email);
  if (!person) throw notFound(`Somebody of the e-mail ${email}`);
  await onRecord(ctx, null, async (trx, record) => {
    await store.endFactor(trx, person.id);
    await record('took a second factor away', subjectOf(person));
  });
}
