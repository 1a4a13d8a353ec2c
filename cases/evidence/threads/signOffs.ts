import { forbidden, notFound, ProblemError } from '@/contracts/problem';
import { sha256Text } from '@/core/digest';
import * as store from '@/store/threads';
import { type Context, known } from '../../asking/context';
import { onRecord } from '../../asking/onRecord';
import { withSeenSubject } from '../../asking/subjects';
import { require, type Viewer } from '../../asking/viewer';
import { tell } from '../../mail/tell';
import { contentOf, gatheredIn, pointsIn } from './content';
import { hindranceOf, shownSignOff } from './hindrance';
import { reached, seen } from './seenThreads';
import { showThread } from './shown';
import { threadSubject } from './words';

/** Signs a thread, over its content as it is. @throws ProblemError 403 who may not, 409 with what stands open */
export async function sign(ctx: Context, viewer: Viewer, id: number, as: 'preparer' | 'reviewer') {
  await reached(ctx, viewer, id, as === 'preparer' ? 'continue' : 'comment');
  await onRecord(ctx, viewer, async (trx, record) => {
    // Whoever changes what the thread gathered holds it meanwhile: nothing is signed while it is changed.
    if ((await store.lockThread(trx, id)) === null) throw notFound(`Thread ${id}`);
    const { thread, steps } = await seen(ctx, viewer, id);
    const gathered = await gatheredIn(ctx, id);
    const [prepared, points, signOffs] = await Promise.all([
      contentOf(ctx, thread, steps, 'preparer', gathered),
      pointsIn(ctx, id),
      store.signOffsOf(ctx.write, [id]),
    ]);
    const openPoints = points.filter((p) => p.state !== 'cleared').length;
    const openQuestions = gathered.question.filter((q) => q.state === 'open').length;
    const now = { digest: prepared.digest, openPoints, openQuestions };
    const hindrance = hindranceOf(viewer, as, thread, steps, signOffs, now);
    if (hindrance?.status === 403) throw forbidden(hindrance.why);
    if (hindrance) throw new ProblemError(409, hindrance.why);
    const { content, digest } = as === 'preparer' ? prepared : await contentOf(ctx, thread, steps, as, gathered);
    const { newest } = await known(ctx.write);
    const signed = await store.insertSignOff(trx, {
      thread: id,
      person: viewer.id,
      signed_as: as,
      digest,
      content,
      load: newest,
    });
    await store.updateThread(trx, id, { state: as === 'preparer' ? 'prepared' : 'signed' });
    await record(as === 'preparer' ? 'signed a thread as preparer' : 'signed a thread as reviewer', threadSubject(id), {
      ...{ signOff: signed, name: thread.name, digest, load: newest },
    });
    const place = `/threads/${id}`;
    if (as === 'preparer' && thread.reviewer !== null)
      await tell(trx, viewer, [thread.reviewer], {
        what: `signed “${thread.name}”, which waits for your review`,
        place,
      });
    if (as === 'reviewer')
      await tell(trx, viewer, [thread.person], { what: `reviewed and signed “${thread.name}”`, place });
  });
  return showThread(ctx, viewer, id);
}

/** Opens a signed thread again. Its signatures are kept, with when and why they ended (ISA 230.16). */
export async function reopen(ctx: Context, viewer: Viewer, id: number, reason: string) {
  require(viewer, 'preparer', 'open a signed thread again');
  await reached(ctx, viewer, id, 'comment');
  await onRecord(ctx, viewer, async (trx, record) => {
    const state = await store.lockThread(trx, id);
    if (state !== 'prepared' && state !== 'signed')
      throw new ProblemError(409, 'This thread is not signed; it is open as it is');
    const live = (await store.signOffsOf(trx, [id])).filter((s) => s.ended_at === null);
    await store.endSignOffs(trx, id, viewer.id, reason);
    await store.updateThread(trx, id, { state: 'changed' });
    await record('opened a thread again', threadSubject(id), { reason, ended: live.map((s) => s.id) });
    const { thread } = await seen(ctx, viewer, id);
    await tell(trx, viewer, [...new Set(live.map((s) => s.person))], {
      what: `opened “${thread.name}”, which you signed, again`,
      place: `/threads/${id}`,
    });
  });
  return showThread(ctx, viewer, id);
}

/** A thread as it was when it was signed. */
export async function showSigned(ctx: Context, viewer: Viewer, id: number, signOff: number) {
  await seen(ctx, viewer, id);
  const gathered = Object.values(await gatheredIn(ctx, id)).flat();
  if ((await withSeenSubject(ctx, viewer, gathered)).length < gathered.length)
    throw forbidden(
      'This thread gathered evidence on what you do not see; what was signed is read by those who see all of it',
    );
  const row = (await store.signOffsOf(ctx.write, [id])).find((s) => s.id === signOff);
  if (!row) throw notFound(`Signature ${signOff} of thread ${id}`);
  return {
    signOff: shownSignOff(row),
    holds: sha256Text(row.content) === row.digest,
    content: JSON.parse(row.content) as Record<string, unknown>,
  };
}
