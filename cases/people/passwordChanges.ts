import { ProblemError, wrong } from '@/contracts/problem';
import * as store from '@/store/people';
import { addToRecord } from '@/store/record';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { require, type Viewer } from '../asking/viewer';
import { checkPassword, hashOf, isRight } from './passwords';
import { personMeant, subjectOf, wordsOf } from './people';
import { digest, linkFor, RESET_HOURS } from './secrets';
import { type From, mayTry, placeOf, tooMany } from './signIn';

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

/** Takes such a link up. @throws ProblemError if it is used, too old, or was never made */
export async function takeReset(ctx: Context, wanted: { secret: string; password: string }, from: From): Promise<void> {
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
      detail: { cameFrom: from.address },
    });
  });
}
