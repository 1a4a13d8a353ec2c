import type { z } from 'zod';
import type { newPointSchema, pointChangeSchema } from '@/contracts/bodies/all';
import { forbidden, ProblemError, wrong } from '@/contracts/problem';
import { isWritten, readSubject } from '@/contracts/subject';
import type { Db } from '@/store/db';
import { insertMentions, type PointRow, readEvidence, setPointState } from '@/store/evidence';
import { holdThread } from '@/store/threads';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { require, type Viewer } from '../asking/viewer';
import { tell } from '../mail/tell';
import { aboutOf, keepEvidence, shownAbout } from './about';
import { answersUnder, keepNote } from './notes';
import { type EvidenceParams, seenEvidence, seenPiece } from './seenEvidence';
import { reached } from './threads/seenThreads';
import { keepMentions, shownText, textOf } from './written';

/**
 * Raises a review point on anything that is shown or written. It may be raised on what is signed by its preparer: that is
 * when a reviewer reads it.
 */
export async function raisePoint(
  ctx: Context,
  viewer: Viewer,
  {
    body,
    ...wanted
  }: z.input<typeof newPointSchema> & { address: string; label: string; body: z.infer<typeof newPointSchema>['body'] },
) {
  require(viewer, 'reviewer', 'raise a review point');
  const { thread = null, ...point } = wanted;
  const about = await aboutOf(ctx, viewer, { ...point, measure: point.measure ?? null, thread: null });
  about.thread = thread ?? (await threadOfSubject(ctx, about.subject));
  if (thread !== null) await reached(ctx, viewer, thread, 'comment');
  const text = await textOf(ctx, viewer, body, about);
  const id = await onRecord(ctx, viewer, async (trx, record) => {
    await notReviewed(trx, about.thread);
    const added = await keepEvidence(trx, 'point', about, { body: text.body, content: text.content });
    await keepMentions(trx, 'point', added, text, about.label, viewer);
    await record('raised a review point', about.subject, { point: added, body: text.body });
    return added;
  });
  return showPoint(ctx, viewer, id);
}

/** Review points on what the viewer may see; all of them, where nothing narrower is asked. */
export async function listPoints(
  ctx: Context,
  viewer: Viewer,
  { state, ...params }: EvidenceParams & { state?: string | undefined },
) {
  const { rows, next } = await seenEvidence(ctx, viewer, 'point', params, { ofAll: true });
  return {
    rows: await shownPoints(
      ctx,
      viewer,
      rows.filter((p) => isIn(p.state, state)),
    ),
    next,
  };
}

/** “waiting”: whatever is not done with. */
export const isIn = (state: string, asked: string | undefined): boolean =>
  asked === undefined ||
  state === asked ||
  (asked === 'waiting' && state !== 'cleared' && state !== 'settled' && state !== 'dropped');

/**
 * Answers a point, clears it, or opens it again. Only whoever raised it says that it is cleared, or that the answer does
 * not do; they answer nothing themselves. @throws ProblemError
 */
export async function changePoint(
  ctx: Context,
  viewer: Viewer,
  id: number,
  { state, body }: z.infer<typeof pointChangeSchema>,
) {
  const row = await seenPiece(ctx, viewer, 'point', id);
  const own = row.person === viewer.id;
  if (state === 'answered') {
    require(viewer, 'preparer', 'answer a review point');
    if (own) throw forbidden('You raised this point; somebody else answers it. Clear it, if it needs no answer');
    if (body === undefined) throw wrong('body', 'write the answer');
  } else if (!own)
    throw forbidden(`Only ${row.name}, who raised this point, ${state === 'cleared' ? 'clears it' : 'opens it again'}`);
  if (row.state === 'cleared' && state !== 'open')
    throw new ProblemError(409, 'This point is cleared; whoever raised it opens it again first');
  if (row.state === state && state !== 'answered' && body === undefined) return showPoint(ctx, viewer, id);
  const about = { ...row, load: row.load, person: viewer.id, role: viewer.role };
  const text = body === undefined ? null : await textOf(ctx, viewer, body, row);
  await onRecord(ctx, viewer, async (trx, record) => {
    await notReviewed(trx, row.thread);
    await setPointState(trx, id, state);
    if (text) {
      const { subject, entities, measure, address, label, load, person, role } = about;
      await keepNote(
        trx,
        record,
        viewer,
        { subject, entities, measure, address, label, load, person, role, thread: null },
        text,
        { of_kind: 'point', of_id: id, act: state },
      );
    }
    await record(ACT[state], row.subject, { point: id });
    // An answer waits for whoever raised the point.
    if (state === 'answered') {
      await insertMentions(trx, 'point', id, [row.person]);
      await tell(trx, viewer, [row.person], { what: `answered your review point on ${row.label}`, place: '/desk' });
    }
  });
  return showPoint(ctx, viewer, id);
}

/** The thread that something written is of, or is. */
async function threadOfSubject(ctx: Context, text: string): Promise<number | null> {
  const subject = readSubject(text);
  if (subject.is === 'thread') return subject.id;
  if (!isWritten(subject)) return null;
  return (await readEvidence(ctx.write, subject.is, subject.id))?.thread ?? null;
}

/** What a reviewer signed holds its points as they were. @throws ProblemError 409 */
async function notReviewed(trx: Db, thread: number | null): Promise<void> {
  const held = thread === null ? undefined : await holdThread(trx, thread);
  if (held?.state === 'signed')
    throw new ProblemError(409, `“${held.name}” is signed by its reviewer; open it again first, and say why`);
}

const ACT = {
  answered: 'answered a review point',
  cleared: 'cleared a review point',
  open: 'opened a review point again',
} as const;

const showPoint = async (ctx: Context, viewer: Viewer, id: number) =>
  (await shownPoints(ctx, viewer, [await seenPiece(ctx, viewer, 'point', id)]))[0] as Awaited<
    ReturnType<typeof shownPoints>
  >[number];

async function shownPoints(ctx: Context, viewer: Viewer, rows: readonly PointRow[]) {
  const answers = await answersUnder(
    ctx,
    viewer,
    'point',
    rows.map((p) => p.id),
  );
  return Promise.all(
    rows.map(async (p) => ({
      ...shownAbout(p, viewer),
      ...(await shownText(ctx, viewer, p)),
      state: p.state,
      answers: answers.get(p.id) ?? [],
    })),
  );
}
