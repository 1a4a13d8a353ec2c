import { type Subject, subjectText } from '@/contracts/subject';
import { findEntry } from '@/store/entries';
import { listEvidence } from '@/store/evidence';
import { actsOn, whoLookedAt } from '@/store/record';
import { type Context, known } from '../asking/context';
import { canonicalSubject } from '../asking/subjects';
import { seesWhole, type Viewer } from '../asking/viewer';
import { tickMarks } from './ticks';

const ACTS_MAX = 200;

/**
 * What was done to a figure, a line, an entry or a document, newest first; and of those that are opened by themselves, who
 * looked at them. Who looked is told to who sees whole books: a reader is not told whom a unit interests.
 */
export async function history(ctx: Context, viewer: Viewer, text: string) {
  const { subject } = await canonicalSubject(ctx, viewer, text);
  const canonical = subjectText(subject);
  const [acts, ticks, { marks }] = await Promise.all([
    actsOn(ctx.read, canonical, ACTS_MAX),
    listEvidence(ctx.read, 'tick', { subjects: [canonical], entities: null, limit: ACTS_MAX, after: 0 }),
    tickMarks(ctx),
  ]);
  // Several that are ticked at once are one act of the record; each of them is told here.
  const ticked = ticks.map((t) => ({
    ...{ at: t.created_at.toISOString(), person: t.name, act: 'ticked' },
    says: marks.find((m) => m.code === t.mark)?.meaning ?? t.mark,
  }));
  const done = acts
    .filter((a) => a.act !== 'ticked')
    .map((a) => ({
      ...{ at: a.at.toISOString(), person: a.person_name, act: a.act },
      // What was written is read where it stands, by who may see all that it quotes.
      says: typeof a.detail.name === 'string' ? a.detail.name : '',
    }));
  return {
    acts: [...done, ...ticked].sort((a, b) => (a.at < b.at ? 1 : -1)),
    seenBy: seesWhole(viewer) && viewer.role !== 'reader' ? await lookers(ctx, subject) : [],
  };
}

async function lookers(ctx: Context, subject: Subject) {
  const things = await thingsOf(ctx, subject);
  if (things.length === 0) return [];
  return (await whoLookedAt(ctx.read, things)).map(({ person, minutes, last }) => ({
    ...{ person, times: minutes, last: last.toISOString() },
  }));
}

/** What looks at a subject are called in the record. */
async function thingsOf(ctx: Context, subject: Subject): Promise<string[]> {
  if (subject.is === 'document') {
    const name = `documents/${subject.number}`;
    return [name, `${name} ${subject.entity}`];
  }
  if (subject.is !== 'line' && subject.is !== 'entry') return [];
  const { newest } = await known(ctx.read);
  const head = await findEntry(ctx.read, { entity: subject.entity, number: subject.entry, asOf: newest });
  return head ? [`entries/e${head.id}`, `entries/e${head.id} ${subject.entity}`] : [];
}
