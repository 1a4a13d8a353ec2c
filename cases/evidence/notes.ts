import type { z } from 'zod';
import type { newNoteSchema } from '@/contracts/bodies';
import { forbidden, notFound } from '@/contracts/problem';
import { subjectText } from '@/contracts/subject';
import { insertEvidence, type NoteRow, readEvidence, removeEvidence, restoreEvidence } from '@/store/evidence';
import { type Context, known } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { canonicalSubject, maySeeSubject } from '../asking/subjects';
import { inkOf, type Viewer } from '../asking/viewer';
import { type EvidenceParams, seenEvidence } from './seenEvidence';

/** Writes a note on a figure, a line or an entry. Whoever may see it may comment. */
export async function writeNote(ctx: Context, viewer: Viewer, { body, ...note }: z.infer<typeof newNoteSchema>) {
  const { subject: about, entities } = await canonicalSubject(ctx, viewer, note.subject);
  const { newest } = await known(ctx.write);
  const subject = subjectText(about);
  const id = await onRecord(ctx, viewer, async (trx, record) => {
    const by = { person: viewer.id, role: viewer.role };
    const added = await insertEvidence(trx, 'note', { ...note, subject, entities, load: newest, ...by }, { body });
    await record('wrote a note', subject, { note: added, body });
    return added;
  });
  return shownNote((await readEvidence(ctx.write, 'note', id)) as NoteRow, viewer);
}

/** Notes on what the viewer may see, of some subjects or entities. */
export async function listNotes(ctx: Context, viewer: Viewer, params: EvidenceParams) {
  const { rows, next } = await seenEvidence(ctx, viewer, 'note', params);
  return { rows: rows.map((n) => shownNote(n, viewer)), next };
}

/** Takes one's own note away; the record keeps that it was there. */
export async function removeNote(ctx: Context, viewer: Viewer, id: number): Promise<void> {
  const row = await readEvidence(ctx.write, 'note', id);
  if (!row || !(await maySeeSubject(ctx, viewer, row))) throw notFound(`Note ${id}`);
  if (row.person !== viewer.id) throw forbidden(`Only ${row.name} can remove this note`);
  await onRecord(ctx, viewer, async (trx, record) => {
    await removeEvidence(trx, 'note', id);
    await record('took a note away', row.subject, { note: id });
  });
}

/** Brings a note back that was taken away by mistake. */
export async function restoreNote(ctx: Context, viewer: Viewer, id: number): Promise<void> {
  const row = await readEvidence(ctx.write, 'note', id, true);
  if (row?.person !== viewer.id) throw notFound(`Note ${id}`);
  await onRecord(ctx, viewer, async (trx, record) => {
    await restoreEvidence(trx, 'note', id);
    await record('brought a note back', row.subject, { note: id });
  });
}

const shownNote = (n: NoteRow, viewer: Viewer) => ({
  id: n.id,
  subject: n.subject,
  measure: n.measure,
  address: n.address,
  label: n.label,
  body: n.body,
  by: n.name,
  ink: inkOf(n.role),
  mine: n.person === viewer.id,
  at: n.created_at.toISOString(),
});
