import type { z } from 'zod';
import type { newNoteSchema, noteChangeSchema } from '@/contracts/bodies/all';
import { forbidden, notFound, ProblemError } from '@/contracts/problem';
import type { Db } from '@/store/db';
import {
  type Answering,
  answersTo,
  editsOf,
  insertMentions,
  type NewEvidence,
  type NoteRow,
  readEvidence,
  restoreEvidence,
  rewriteNote,
} from '@/store/evidence';
import { keepFormer } from '@/store/formerWords';
import type { Context } from '../asking/context';
import { onRecord, type Recorder } from '../asking/onRecord';
import { inkOf, type Viewer } from '../asking/viewer';
import { tell } from '../mail/tell';
import { aboutOf, keepEvidence, shownAbout } from './about';
import { type EvidenceParams, seenEvidence, seenPiece } from './seenEvidence';
import { takeAway } from './takeAway';
import { heldOpen } from './threads/words';
import { keepMentions, shownText, type Text, textOf } from './written';

/** What a note was called before it was changed is kept under this. */
export const noteSubject = (id: number): string => `note ${id}`;

/** Writes a note on a figure, a line, an entry, a document or a thread, or an answer to one. Whoever may see it may comment. */
export async function writeNote(
  ctx: Context,
  viewer: Viewer,
  { body, replyTo, ...note }: z.input<typeof newNoteSchema> & { body: z.infer<typeof newNoteSchema>['body'] },
) {
  const parent = replyTo === undefined ? null : await seenPiece(ctx, viewer, 'note', replyTo);
  // An answer to an answer stands under the same note.
  const under = parent?.of_kind === 'note' ? await seenPiece(ctx, viewer, 'note', parent.of_id as number) : parent;
  if (under && under.of_kind !== null && under.of_kind !== 'note')
    throw new ProblemError(422, `This is an answer to a ${under.of_kind}; answer that`);
  const about = await aboutOf(ctx, viewer, {
    address: '',
    label: '',
    ...note,
    measure: note.measure ?? null,
    thread: note.thread ?? null,
    ...(under ? { subject: under.subject, label: under.label } : { subject: note.subject as string }),
  });
  if (under) about.thread = under.thread;
  const text = await textOf(ctx, viewer, body, about);
  const id = await onRecord(ctx, viewer, async (trx, record) => {
    const answers = under ? ({ of_kind: 'note', of_id: under.id, act: null } as const) : {};
    const kept = await keepNote(trx, record, viewer, about, text, answers);
    // Whoever wrote the note learns of an answer to it.
    const writer = under && !text.mentions.includes(under.person) ? [under.person] : [];
    await insertMentions(
      trx,
      'note',
      kept,
      writer.filter((person) => person !== viewer.id),
    );
    await tell(trx, viewer, writer, { what: `answered your note on ${about.label}`, place: '/desk' });
    return kept;
  });
  return showNote(ctx, viewer, id);
}

/** Keeps a note, or an answer, in the transaction that makes it. */
export async function keepNote(
  trx: Db,
  record: Recorder,
  viewer: Viewer,
  about: NewEvidence,
  text: Text,
  answers: Partial<Answering>,
): Promise<number> {
  const { body, content } = text;
  const id = await keepEvidence(trx, 'note', about, { body, content, ...answers });
  await keepMentions(trx, 'note', id, text, about.label, viewer);
  await record('wrote a note', about.subject, {
    note: id,
    body,
    ...(content ? { content } : {}),
    ...(answers.of_kind ? { answers: `${answers.of_kind} ${answers.of_id}` } : {}),
  });
  return id;
}

/** Notes on what the viewer may see, of some subjects, entities or a thread; answers after what they answer. */
export async function listNotes(ctx: Context, viewer: Viewer, params: EvidenceParams) {
  const { rows, next } = await seenEvidence(ctx, viewer, 'note', params);
  return {
    rows: await shownNotes(
      ctx,
      viewer,
      rows.filter((n) => n.of_kind === null || n.of_kind === 'note'),
    ),
    next,
  };
}

/** Changes one's own note; what it said before is kept. With nothing in it, brings one back that was taken away by mistake. */
export async function changeNote(ctx: Context, viewer: Viewer, id: number, change: z.infer<typeof noteChangeSchema>) {
  if (change?.body === undefined) return restoreNote(ctx, viewer, id);
  const row = await seenPiece(ctx, viewer, 'note', id);
  if (row.person !== viewer.id)
    throw forbidden(`These are ${row.name}’s words; only they change them. Answer the note`);
  const text = await textOf(ctx, viewer, change.body, row, row.content);
  await onRecord(ctx, viewer, async (trx, record) => {
    await heldOpen(trx, row.thread);
    await keepFormer(trx, noteSubject(id), { body: row.body }, viewer.id);
    await rewriteNote(trx, id, text);
    await keepMentions(trx, 'note', id, text, row.label, viewer);
    const { body, content } = text;
    await record('changed a note', row.subject, { note: id, body, ...(content ? { content } : {}), before: row.body });
  });
  return showNote(ctx, viewer, id);
}

/** Takes one's own note away; the record keeps that it was there. */
export const removeNote = (ctx: Context, viewer: Viewer, id: number): Promise<void> =>
  takeAway(ctx, viewer, 'note', id, 'took a note away', ({ act }) => {
    if (act !== null) throw forbidden('This answer says what was done; it stays');
    return {};
  });

async function restoreNote(ctx: Context, viewer: Viewer, id: number) {
  const row = await readEvidence(ctx.write, 'note', id, true);
  if (row?.person !== viewer.id) throw notFound(`Note ${id}`);
  await onRecord(ctx, viewer, async (trx, record) => {
    await heldOpen(trx, row.thread);
    await restoreEvidence(trx, 'note', id);
    await record('brought a note back', row.subject, { note: id });
  });
  return showNote(ctx, viewer, id);
}

const showNote = async (ctx: Context, viewer: Viewer, id: number) =>
  (await shownNotes(ctx, viewer, [await seenPiece(ctx, viewer, 'note', id)]))[0] as Awaited<
    ReturnType<typeof shownNotes>
  >[number];

async function shownNotes(ctx: Context, viewer: Viewer, rows: readonly NoteRow[]) {
  const edits = await editsOf(
    ctx.write,
    rows.map((n) => noteSubject(n.id)),
  );
  return Promise.all(
    rows.map(async (n) => ({
      ...shownAbout(n, viewer),
      ...(await shownText(ctx, viewer, n)),
      replyTo: n.of_kind === 'note' ? n.of_id : null,
      edits: edits.get(noteSubject(n.id)) ?? 0,
    })),
  );
}

/** What was answered to points or questions, by what they answer. */
export async function answersUnder(ctx: Context, viewer: Viewer, kind: 'point' | 'question', ids: readonly number[]) {
  const under = new Map<number, Awaited<ReturnType<typeof shownAnswer>>[]>(ids.map((id) => [id, []]));
  for (const row of await answersTo(ctx.write, kind, ids))
    under.get(row.of_id as number)?.push(await shownAnswer(ctx, viewer, row));
  return under;
}

const shownAnswer = async (ctx: Context, viewer: Viewer, n: NoteRow) => ({
  id: n.id,
  ...(await shownText(ctx, viewer, n)),
  act: n.act,
  by: n.name,
  ink: inkOf(n.role),
  at: n.created_at.toISOString(),
});
