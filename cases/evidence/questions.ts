import type { z } from 'zod';
import type { answerSchema, newQuestionSchema } from '@/contracts/bodies/all';
import { wrong } from '@/contracts/problem';
import { insertMentions, mentionSeen, type QuestionRow, setQuestionState } from '@/store/evidence';
import { listPeople } from '@/store/people';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import type { Viewer } from '../asking/viewer';
import { tell } from '../mail/tell';
import { aboutOf, keepEvidence, shownAbout } from './about';
import { answersUnder, keepNote } from './notes';
import { isIn } from './points';
import { type EvidenceParams, seenEvidence, seenPiece } from './seenEvidence';
import { keepMentions, mustSeeIt, shownText, textOf } from './written';

const DAY_MS = 86_400_000;

/** Asks a colleague about a figure, a line, an entry or a document that both may see. They find it on their desk, and a letter tells them. */
export async function askColleague(
  ctx: Context,
  viewer: Viewer,
  {
    body,
    to,
    ...wanted
  }: z.input<typeof newQuestionSchema> & {
    address: string;
    label: string;
    body: z.infer<typeof newQuestionSchema>['body'];
  },
) {
  const about = await aboutOf(ctx, viewer, {
    ...wanted,
    measure: wanted.measure ?? null,
    thread: wanted.thread ?? null,
  });
  const receiver = (await listPeople(ctx.write)).find(
    (p) => (p.id === to || p.email === String(to).toLowerCase()) && p.suspended_at === null,
  );
  if (!receiver) throw wrong('to', `there is nobody “${to}” here; choose a colleague`);
  if (receiver.id === viewer.id) throw wrong('to', 'ask somebody else; a note is for oneself');
  await mustSeeIt(ctx, receiver, about);
  const text = await textOf(ctx, viewer, body, about);
  const id = await onRecord(ctx, viewer, async (trx, record) => {
    const { content } = text;
    const added = await keepEvidence(trx, 'question', about, { body: text.body, content, receiver: receiver.id });
    await keepMentions(
      trx,
      'question',
      added,
      { ...text, mentions: text.mentions.filter((p) => p !== receiver.id) },
      about.label,
      viewer,
    );
    await record('asked a colleague', about.subject, { question: added, to: receiver.email, body: text.body });
    await tell(trx, viewer, [receiver.id], {
      what: `asked you about ${about.label}`,
      place: `/desk/questions/${added}`,
    });
    return added;
  });
  return showQuestion(ctx, viewer, id);
}

/** Answers a question. Whoever asked goes on asking with an answer of their own. */
export async function answerQuestion(ctx: Context, viewer: Viewer, id: number, { body }: z.infer<typeof answerSchema>) {
  const row = await seenPiece(ctx, viewer, 'question', id);
  const asker = row.person === viewer.id;
  const state = asker ? 'open' : 'answered';
  const text = await textOf(ctx, viewer, body, row);
  await onRecord(ctx, viewer, async (trx, record) => {
    const { subject, entities, measure, address, label, load } = row;
    const about = {
      subject,
      entities,
      measure,
      address,
      label,
      load,
      thread: row.thread,
      person: viewer.id,
      role: viewer.role,
    };
    await keepNote(trx, record, viewer, about, text, { of_kind: 'question', of_id: id, act: state });
    await setQuestionState(trx, id, state);
    await record(asker ? 'asked a colleague again' : 'answered a question', subject, { question: id });
    await mentionSeen(trx, 'question', id, viewer.id);
    const other = asker ? row.receiver : row.person;
    if (!asker) await insertMentions(trx, 'question', id, [other]);
    await tell(trx, viewer, [other], {
      what: `${asker ? 'asked you again' : 'answered your question'} about ${label}`,
      place: `/desk/questions/${id}`,
    });
  });
  return showQuestion(ctx, viewer, id);
}

/** Questions on what the viewer may see; all of them, where nothing narrower is asked. */
export async function listQuestions(
  ctx: Context,
  viewer: Viewer,
  { state, ...params }: EvidenceParams & { state?: string | undefined },
) {
  const { rows, next } = await seenEvidence(ctx, viewer, 'question', params, { ofAll: true });
  return {
    rows: await shownQuestions(
      ctx,
      viewer,
      rows.filter((q) => isIn(q.state, state)),
    ),
    next,
  };
}

export const showQuestion = async (ctx: Context, viewer: Viewer, id: number) =>
  (await shownQuestions(ctx, viewer, [await seenPiece(ctx, viewer, 'question', id)]))[0] as Awaited<
    ReturnType<typeof shownQuestions>
  >[number];

async function shownQuestions(ctx: Context, viewer: Viewer, rows: readonly QuestionRow[]) {
  const answers = await answersUnder(
    ctx,
    viewer,
    'question',
    rows.map((q) => q.id),
  );
  return Promise.all(
    rows.map(async (q) => ({
      ...shownAbout(q, viewer),
      ...(await shownText(ctx, viewer, q)),
      to: q.receiver_name,
      forMe: q.receiver === viewer.id,
      state: q.state,
      answers: answers.get(q.id) ?? [],
      age: q.state === 'open' ? Math.floor((Date.now() - q.changed_at.getTime()) / DAY_MS) : null,
    })),
  );
}
