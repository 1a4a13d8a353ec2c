import type { z } from 'zod';
import type { newNoteSchema } from '@/contracts/bodies';
import { forbidden, notFound } from '@/contracts/problem';
import { rowsOf } from '@/store/db';
import { addToRecord } from '@/store/record';
import type { Context } from '../asking/context';
import { canonicalSubject, maySeeSubject, subjectText, withSeenSubject } from '../asking/subjects';
import { inkOf, type Viewer } from '../asking/viewer';

interface NoteRow {
  id: number;
  subject: string;
  measure: string | null;
  entities: string[];
  address: string;
  label: string;
  body: string;
  person: number;
  name: string;
  role: string;
  created_at: Date;
}

const READ = `select n.id, n.subject, n.measure, n.entities, n.address, n.label, n.body, n.person, n.created_at, p.name, p.role
  from note n join person p on p.id = n.person where n.removed_at is null`;

/** Writes a note on a figure, a line or an entry. Whoever may see it may comment. */
export async function writeNote(ctx: Context, viewer: Viewer, note: z.infer<typeof newNoteSchema>) {
  const { subject, entities } = await canonicalSubject(ctx, viewer, note.subject);
  const id = await ctx.write.transaction(async (trx) => {
    const [row] = (await trx('note')
      .insert({ ...note, subject: subjectText(subject), entities, person: viewer.id })
      .returning('id')) as { id: number }[];
    const added = (row as { id: number }).id;
    await addToRecord(trx, {
      person: viewer.id,
      personName: viewer.name,
      act: 'wrote a note',
      subject: subjectText(subject),
      detail: { note: added, body: note.body },
    });
    return added;
  });
  const [row] = await rowsOf<NoteRow>(ctx.write, `${READ} and n.id = ?`, [id]);
  return shownNote(row as NoteRow, viewer);
}

/** All notes on what the viewer may see of the entities. */
export async function listNotes(ctx: Context, viewer: Viewer, entities: string[]) {
  const rows = await rowsOf<NoteRow>(ctx.write, `${READ} and n.entities && ?::text[] order by n.id limit 5000`, [
    entities,
  ]);
  return { rows: (await withSeenSubject(ctx, viewer, rows)).map((n) => shownNote(n, viewer)) };
}

/** Takes one's own note away; the record keeps that it was there. */
export async function removeNote(ctx: Context, viewer: Viewer, id: number): Promise<void> {
  const [row] = await rowsOf<NoteRow>(ctx.write, `${READ} and n.id = ?`, [id]);
  if (!row || !(await maySeeSubject(ctx, viewer, row))) throw notFound(`Note ${id}`);
  if (row.person !== viewer.id) throw forbidden(`Only ${row.name} can take this note away`);
  await ctx.write.transaction(async (trx) => {
    await trx.raw('update note set removed_at = now() where id = ?', [id]);
    await addToRecord(trx, {
      person: viewer.id,
      personName: viewer.name,
      act: 'took a note away',
      subject: row.subject,
      detail: { note: id },
    });
  });
}

/** Brings a note back that was taken away by mistake. */
export async function restoreNote(ctx: Context, viewer: Viewer, id: number) {
  const [row] = await rowsOf<{ person: number; subject: string }>(
    ctx.write,
    'select person, subject from note where id = ?',
    [id],
  );
  if (row?.person !== viewer.id) throw notFound(`Note ${id}`);
  await ctx.write.transaction(async (trx) => {
    await trx.raw('update note set removed_at = null where id = ?', [id]);
    await addToRecord(trx, {
      person: viewer.id,
      personName: viewer.name,
      act: 'brought a note back',
      subject: row.subject,
      detail: { note: id },
    });
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
