import { notFound } from '@/contracts/problem';
import * as store from '@/store/people';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import type { Viewer } from '../asking/viewer';
import { personMeant, subjectOf } from './people';
import { digest } from './secrets';
import { IDLE_MINUTES } from './signIn';

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
