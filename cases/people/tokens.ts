import { newTokenSchema } from '@/contracts/bodies/all';
import { notFound, wrong } from '@/contracts/problem';
import * as store from '@/store/people';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import type { Viewer } from '../asking/viewer';
import { personMeant, subjectOf } from './people';
import { digest, secretOf } from './secrets';

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
