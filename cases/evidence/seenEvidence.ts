import { notFound, ProblemError, wrong } from '@/contracts/problem';
import { readSubject, subjectText } from '@/contracts/subject';
import type { EvidenceKind } from '@/contracts/work';
import { listEvidence, readEvidence } from '@/store/evidence';
import type { Context } from '../asking/context';
import { figureAt, maySeeSubject, withSeenSubject } from '../asking/subjects';
import type { Viewer } from '../asking/viewer';

export interface EvidenceParams {
  subject?: string[] | undefined;
  entity?: string[] | undefined;
  thread?: number | undefined;
  limit: number;
  after?: string | undefined;
}

/** A page of the evidence of some subjects, entities or a thread, of which the viewer may see what it is about. */
export async function seenEvidence<Kind extends EvidenceKind>(
  ctx: Context,
  viewer: Viewer,
  kind: Kind,
  { subject, entity, thread, limit, after }: EvidenceParams,
  { ofAll = false }: { ofAll?: boolean } = {},
) {
  if (!ofAll && !subject && !entity && thread === undefined)
    throw wrong('entity', 'say whose evidence: an entity, a subject, or a thread');
  const asked = {
    subjects: subject ? await Promise.all(subject.map((text) => canonicalText(ctx, viewer, text))) : null,
    entities: entity ?? null,
    threads: thread === undefined ? null : [thread],
    limit: limit + 1,
    after: Number(after ?? 0),
  };
  const found = await listEvidence(ctx.write, kind, asked);
  const page = found.slice(0, limit);
  return {
    rows: await withSeenSubject(ctx, viewer, page),
    next: found.length > limit ? String(page.at(-1)?.id) : null,
  };
}

/** So many pieces of a kind are looked through at once. */
const EVERY = 10_000;

/** All evidence of a kind of some companies, or of all, of which the viewer may see what it is about. */
export const allSeenEvidence = async <Kind extends EvidenceKind>(
  ctx: Context,
  viewer: Viewer,
  kind: Kind,
  entities: string[] | null,
) =>
  withSeenSubject(
    ctx,
    viewer,
    await listEvidence(ctx.write, kind, { subjects: null, entities, limit: EVERY, after: 0 }),
  );

/** A figure may be asked for in any order of its parameters; evidence bears its canonical form. */
async function canonicalText(ctx: Context, viewer: Viewer, text: string): Promise<string> {
  const subject = readSubject(text);
  if (subject.is !== 'figure') return text;
  const asked = await figureAt(ctx, viewer, subject.address, null).catch((error: unknown) => {
    if (error instanceof ProblemError) return null; // evidence of what cannot be asked any more is found by what it bears
    throw error;
  });
  return asked === null ? text : subjectText({ is: 'figure', address: asked.address });
}

/** What pieces of evidence are called where one is not there. */
const NAMED: Record<EvidenceKind, string> = {
  note: 'Note',
  pin: 'Pin',
  tick: 'Tick',
  file: 'File',
  point: 'Review point',
  question: 'Question',
  finding: 'Finding',
  sample: 'Sample',
  run: 'Run of tests',
  expectation: 'Expectation',
  proposed: 'Proposed entry',
};

/** One piece of evidence. What the viewer may not see is not there for them, in the same words. @throws ProblemError 404 */
export async function seenPiece<Kind extends EvidenceKind>(ctx: Context, viewer: Viewer, kind: Kind, id: number) {
  const row = await readEvidence(ctx.write, kind, id);
  if (!row || !(await maySeeSubject(ctx, viewer, row))) throw notFound(`${NAMED[kind]} ${id}`);
  return row;
}
