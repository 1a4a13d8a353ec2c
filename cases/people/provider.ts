import { z } from 'zod';
import { ownPathOf } from '@/contracts/ownPath';
import { beginSignIn, ProviderFault, type ProviderSettings, whoCameBack } from '@/exchange/identityProvider';
import { bindPerson, personBound, unbindPerson } from '@/store/identities';
import { log } from '@/store/log';
import * as store from '@/store/people';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { publicAddress } from '../asking/publicAddress';
import { require, type Viewer } from '../asking/viewer';
import { personMeant, subjectOf } from './people';
import { type From, openSession } from './signIn';

/**
 * Signing in through the organisation's own sign-in. Whoever is to come in is added by an owner first; the provider only
 * proves who they are. The first time somebody comes back they are found by an e-mail address that the provider vouches
 * for, and bound to what it calls them; from then on that counts, whatever address they have there.
 */

/** Why somebody did not come in, as the page of signing in says it. */
export const NOT_IN = ['away', 'proof', 'unverified', 'unknown', 'another'] as const;
export type NotIn = (typeof NOT_IN)[number];

function settingsOf(env: NodeJS.ProcessEnv): ProviderSettings | null {
  const { OIDC_ISSUER: issuer, OIDC_CLIENT_ID: clientId, OIDC_CLIENT_SECRET: clientSecret } = env;
  return issuer && clientId && clientSecret ? { issuer, clientId, clientSecret } : null;
}

/** What the sign-in of the organisation is called here; null where there is none. */
export const providerName = (env: NodeJS.ProcessEnv = process.env): string | null =>
  settingsOf(env) === null ? null : (env.OIDC_NAME ?? 'your organisation');

const BACK = '/api/v1/session/provider/return';
/** So long somebody may take to sign in there. */
export const BEGUN_SECONDS = 15 * 60;

const begunSchema = z.strictObject({ state: z.string(), nonce: z.string(), verifier: z.string(), to: z.string() });

/** @returns where the browser goes, and what it keeps until it comes back; “away” where there is no provider, or none that answers */
export async function beginAtProvider(to: string | null): Promise<{ url: string; keeps: string } | NotIn> {
  const settings = settingsOf(process.env);
  if (settings === null) return 'away';
  try {
    const { url, begun } = await beginSignIn(settings, publicAddress(BACK));
    const keeps = JSON.stringify({ ...begun, to: ownPathOf(to ?? '/') ?? '/' });
    return { url, keeps: Buffer.from(keeps).toString('base64url') };
  } catch (error) {
    return faultOf(error, 'away');
  }
}

/** Opens a session for whoever comes back. @returns the secret for the cookie and where they wanted to go; or why not */
export async function signInFromProvider(
  ctx: Context,
  query: string,
  keeps: string | null,
  from: From,
): Promise<{ secret: string; to: string } | NotIn> {
  const settings = settingsOf(process.env);
  const begun = begunSchema.safeParse(jsonOf(keeps)).data;
  if (settings === null) return 'away';
  if (!begun) return 'proof';
  const { to, ...proof } = begun;
  try {
    const came = new URL(`${publicAddress(BACK)}?${query}`);
    const { issuer, subject, email, verified } = await whoCameBack(settings, came, proof);
    const bound = await personBound(ctx.write, issuer, subject);
    if (bound === null && (!email || !(verified || process.env.OIDC_TRUST_EMAIL === 'yes'))) return 'unverified';
    const person =
      bound === null ? await store.personByEmail(ctx.write, email as string) : await store.personById(ctx.write, bound);
    if (!person || person.suspended_at) return 'unknown';
    if (bound === null) {
      const isBound = await onRecord(ctx, { ...person, cameFrom: from.address }, async (trx, record) => {
        const done = await bindPerson(trx, issuer, subject, person.id);
        if (done) await record('was known by the organisation’s sign-in', subjectOf(person), { issuer, subject });
        return done;
      });
      if (!isBound) return 'another';
    }
    return { secret: await openSession(ctx, person, from, { through: issuer }), to: ownPathOf(to) ?? '/' };
  } catch (error) {
    return faultOf(error, 'proof');
  }
}

/** Lets whoever comes back under somebody's e-mail address next be bound to them, as at the first time. */
export async function letBeKnownAnew(ctx: Context, viewer: Viewer, id: string | undefined): Promise<void> {
  require(viewer, 'owner', 'let somebody be known anew');
  const person = await personMeant(ctx, viewer, id);
  await onRecord(ctx, viewer, async (trx, record) => {
    if ((await unbindPerson(trx, person.id)) > 0) await record('let somebody be known anew', subjectOf(person));
  });
}

function faultOf(error: unknown, why: NotIn): NotIn {
  if (!(error instanceof ProviderFault)) throw error;
  log().warn({ problem: error.message }, 'sign-in of the organisation');
  return why;
}

function jsonOf(keeps: string | null): unknown {
  try {
    return JSON.parse(Buffer.from(keeps ?? '', 'base64url').toString('utf8'));
  } catch {
    return null;
  }
}
