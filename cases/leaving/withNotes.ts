import { subjectKey } from '@/contracts/subject';
import { isAtHand, type Leaf, type LeafRow } from '@/core/leaf';
import { dateText } from '@/core/sentence';
import type { Context } from '../asking/context';
import type { Viewer } from '../asking/viewer';
import { allSeenEvidence } from '../evidence/seenEvidence';
import { tickMarks } from '../evidence/ticks';

/** A leaf with the notes and ticks on its rows that its viewer may see, and under what each was written. */
export async function withNotes(ctx: Context, viewer: Viewer, leaf: Leaf, entities: string[]): Promise<Leaf> {
  const [notes, ticks, { marks }] = await Promise.all([
    allSeenEvidence(ctx, viewer, 'note', entities),
    allSeenEvidence(ctx, viewer, 'tick', entities),
    tickMarks(ctx),
  ]);
  const meaning = new Map(marks.map((m) => [m.code, m.meaning]));
  const said = new Map<string, string[]>();
  const say = (subject: string, text: string): void => {
    const key = subjectKey(subject);
    said.set(key, [...(said.get(key) ?? []), text]);
  };
  const when = (at: Date): string => dateText(at.toISOString().slice(0, 10));
  for (const note of notes)
    if (note.of_kind === null) say(note.subject, `${note.body} (${note.name}, ${when(note.created_at)})`);
  for (const tick of ticks)
    say(tick.subject, `${meaning.get(tick.mark) ?? tick.mark} (${tick.name}, ${when(tick.created_at)})`);
  const noted = (row: LeafRow): LeafRow => {
    const found = row.subject === null ? undefined : said.get(subjectKey(row.subject));
    return found ? { ...row, notes: found } : row;
  };
  if (isAtHand(leaf.rows)) return { ...leaf, noted: true, rows: leaf.rows.map(noted) };
  const { rows } = leaf;
  const each = async function* (): AsyncGenerator<LeafRow> {
    for await (const row of rows) yield noted(row);
  };
  return { ...leaf, noted: true, rows: each() };
}
