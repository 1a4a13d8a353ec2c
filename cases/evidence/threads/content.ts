import { EVIDENCE_KINDS, type EvidenceKind } from '@/contracts/work';
import { sha256Text } from '@/core/digest';
import { listReferences } from '@/store/crossReferences';
import { answersTo, listEvidence, type NoteRow, type PointRow } from '@/store/evidence';
import type { StepRow, ThreadRow } from '@/store/threads';
import type { Context } from '../../asking/context';
import { stepDigest } from './words';

const EVERY = 100_000;

/** All that threads gathered on the way, by kind and in the order in which it came. */
export async function gatheredInAll(ctx: Context, threads: readonly number[]) {
  const asked = { subjects: null, entities: null, threads, limit: EVERY, after: 0 };
  const [note, pin, tick, file, question, finding, sample, run, expectation, proposed] = await Promise.all([
    listEvidence(ctx.write, 'note', asked),
    listEvidence(ctx.write, 'pin', asked),
    listEvidence(ctx.write, 'tick', asked),
    listEvidence(ctx.write, 'file', asked),
    listEvidence(ctx.write, 'question', asked),
    listEvidence(ctx.write, 'finding', asked),
    listEvidence(ctx.write, 'sample', asked),
    listEvidence(ctx.write, 'run', asked),
    listEvidence(ctx.write, 'expectation', asked),
    listEvidence(ctx.write, 'proposed', asked),
  ]);
  return { note, pin, tick, file, question, finding, sample, run, expectation, proposed };
}

export const gatheredIn = (ctx: Context, thread: number) => gatheredInAll(ctx, [thread]);
export type Gathered = Awaited<ReturnType<typeof gatheredInAll>>;

/** Review points that are raised in threads, on them, or on what was written in them. */
export const pointsInAll = (ctx: Context, threads: readonly number[]): Promise<PointRow[]> =>
  listEvidence(ctx.write, 'point', { subjects: null, entities: null, threads, limit: EVERY, after: 0 });

export const pointsIn = (ctx: Context, thread: number): Promise<PointRow[]> => pointsInAll(ctx, [thread]);

/**
 * What is signed, in its canonical form: what the thread says, its steps with what they froze, and all evidence that it
 * gathered; for a reviewer the points as well, with their answers. Keys are in a fixed order and nothing in it moves with
 * the data, so that the same content always gives the same digest.
 */
export async function contentOf(
  ctx: Context,
  thread: ThreadRow,
  steps: readonly StepRow[],
  as: 'preparer' | 'reviewer',
  held?: Gathered,
): Promise<{ content: string; digest: string }> {
  const gathered = held ?? (await gatheredIn(ctx, thread.id));
  const pins = new Set(gathered.pin.map((p) => p.id));
  const references = (await listReferences(ctx.write)).filter((r) => pins.has(r.a) || pins.has(r.b));
  const answered = await answersTo(
    ctx.write,
    'question',
    gathered.question.map((q) => q.id),
  );
  const content = JSON.stringify({
    form: 1,
    thread: {
      id: thread.id,
      name: thread.name,
      reference: thread.reference,
      folder: thread.folder,
      purpose: thread.purpose,
      assertions: thread.assertions,
      result: thread.result,
      conclusion: thread.conclusion,
      // What was signed before words had figures in them has the digest that it had.
      ...(Object.keys(thread.written).length > 0 ? { written: sortedKeys(thread.written) } : {}),
    },
    steps: steps.map((k) => ({
      id: k.id,
      label: k.label,
      note: k.note,
      by: k.person_name,
      at: k.created_at.toISOString(),
      digest: stepDigest(k),
    })),
    evidence: EVIDENCE_KINDS.flatMap((kind) =>
      kind === 'point' ? [] : gathered[kind].map((row) => evidenceForm(kind, row)),
    ),
    answers: answered.map(answerForm),
    crossReferences: references.map(({ id, a, b }) => ({ id, a, b })),
    ...(as === 'reviewer' ? { points: await pointForms(ctx, await pointsIn(ctx, thread.id)) } : {}),
  });
  return { content, digest: sha256Text(content) };
}

/** A piece of evidence as it is signed: who made what of what, and when. */
function evidenceForm(kind: EvidenceKind, row: Gathered[Exclude<EvidenceKind, 'point'>][number]) {
  const { id, subject, measure, label, name, role, created_at, load, ...rest } = row;
  const { entities: _e, address: _a, person: _p, thread: _t, ...own } = rest as Record<string, unknown>;
  return {
    kind,
    id,
    subject,
    measure,
    label,
    by: name,
    as: role,
    at: created_at.toISOString(),
    load,
    own: sortedKeys(steady(kind === 'proposed' ? wordsOfProposed(own) : own)),
  };
}

/** How far a proposed entry has come is no part of what it says, and goes on after it was signed. */
const GOES_ON = [
  'state',
  'state_by',
  'state_by_name',
  'state_at',
  'state_reason',
  'laid',
  'exported_at',
  'exported_as',
  'booked',
];
const wordsOfProposed = (own: Record<string, unknown>): Record<string, unknown> =>
  Object.fromEntries(Object.entries(own).filter(([name]) => !GOES_ON.includes(name)));

/** What changes by itself, such as whether a question was answered in the meantime, is told by the answers. */
const steady = (own: Record<string, unknown>): Record<string, unknown> =>
  Object.fromEntries(
    Object.entries(own).filter(
      ([name, value]) => name !== 'changed_at' && !(name === 'written' && Object.keys(value as object).length === 0),
    ),
  );

function sortedKeys(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sortedKeys);
  if (value instanceof Date) return value.toISOString();
  if (value === null || typeof value !== 'object') return value;
  return Object.fromEntries(
    Object.entries(value)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([name, held]) => [name, sortedKeys(held)]),
  );
}

const answerForm = (n: NoteRow) => ({
  id: n.id,
  of: `${n.of_kind} ${n.of_id}`,
  act: n.act,
  body: n.body,
  by: n.name,
  at: n.created_at.toISOString(),
});

async function pointForms(ctx: Context, points: readonly PointRow[]) {
  const answers = await answersTo(
    ctx.write,
    'point',
    points.map((p) => p.id),
  );
  return points.map((p) => ({
    id: p.id,
    subject: p.subject,
    body: p.body,
    state: p.state,
    by: p.name,
    at: p.created_at.toISOString(),
    answers: answers.filter((n) => n.of_id === p.id).map(answerForm),
  }));
}
