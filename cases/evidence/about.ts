import { wrong } from '@/contracts/problem';
import { subjectText } from '@/contracts/subject';
import type { Measure } from '@/contracts/traced';
import type { EvidenceKind } from '@/contracts/work';
import type { Db } from '@/store/db';
import { type EvidenceRow, insertEvidence, type NewEvidence } from '@/store/evidence';
import { type Context, known } from '../asking/context';
import { canonicalSubject } from '../asking/subjects';
import { inkOf, type Viewer } from '../asking/viewer';
import { reached } from './threads/seenThreads';
import { heldOpen, mustBeOpen } from './threads/words';

/** What is said of a piece of evidence when it is made. */
export interface AboutWanted {
  subject: string;
  measure?: Measure | null;
  address: string;
  label: string;
  thread?: number | null;
}

/** What it is about in its canonical form, who makes it in which role, and the thread that gathers it. @throws ProblemError */
export async function aboutOf(ctx: Context, viewer: Viewer, wanted: AboutWanted): Promise<NewEvidence> {
  const { subject, entities } = await canonicalSubject(ctx, viewer, wanted.subject);
  const { newest } = await known(ctx.write);
  const thread = wanted.thread ?? (subject.is === 'thread' ? subject.id : null);
  if (thread !== null) {
    if (viewer.role === 'reader' && subject.is !== 'thread')
      throw wrong('thread', 'what a reader writes is not gathered in a thread; leave it out');
    // What is said of a thread as a whole may be said of a signed one.
    const { thread: into } = await reached(ctx, viewer, thread, subject.is === 'thread' ? 'comment' : 'continue');
    if (subject.is !== 'thread') mustBeOpen(into);
  }
  const text = subjectText(subject);
  return {
    subject: text,
    entities,
    measure: wanted.measure ?? null,
    address: wanted.address,
    label: wanted.label === '' ? text.slice(0, 300) : wanted.label,
    load: newest,
    thread: subject.is === 'thread' ? null : thread,
    person: viewer.id,
    role: viewer.role,
  };
}

/** Keeps a piece of evidence in the thread that gathers it, which nobody signs meanwhile. @throws ProblemError 409 */
export async function keepEvidence<Kind extends EvidenceKind>(
  trx: Db,
  kind: Kind,
  about: NewEvidence,
  own: Parameters<typeof insertEvidence<Kind>>[3],
): Promise<number> {
  // A review point says nothing of its own in what is signed by a preparer, and is raised when it is.
  if (kind !== 'point') await heldOpen(trx, about.thread);
  return insertEvidence(trx, kind, about, own);
}

/** What every piece of evidence says of itself. */
export const shownAbout = (row: EvidenceRow, viewer: Viewer) => ({
  id: row.id,
  subject: row.subject,
  measure: row.measure,
  address: row.address,
  label: row.label,
  by: row.name,
  ink: inkOf(row.role),
  mine: row.person === viewer.id,
  at: row.created_at.toISOString(),
  thread: row.thread,
});
