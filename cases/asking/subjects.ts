import DataLoader from 'dataloader';
import { notFound, ProblemError, wrong } from '@/contracts/problem';
import { readQuery, scopeShape } from '@/contracts/scope';
import { type EnteredSubject, isWritten, readSubject, type Subject, type WrittenSubject } from '@/contracts/subject';
import { exactly } from '@/core/values';
import { documentsNumbered } from '@/store/documents';
import { findEntries } from '@/store/entries';
import { readEvidence } from '@/store/evidence';
import { linesOfEntries, type StoredLine } from '@/store/lines';
import { readThread, stepsOf } from '@/store/threads';
import { figureTotal } from '../balances/accountBalances';
import { goesAsFarAs, rightsOf } from '../people/sharing';
import { type Context, known } from './context';
import { ResolvedFigure } from './resolvedFigure';
import { resolveFigure } from './resolveFigure';
import { maySee, requireWhole, seesLine, seesWhole, type Viewer } from './viewer';

/** The figure of an address, asked as of a load (null: the newest). */
export async function figureAt(
  ctx: Context,
  viewer: Viewer,
  address: string,
  load: number | null,
): Promise<ResolvedFigure> {
  const asked = await resolveFigure(ctx, viewer, readQuery(scopeShape, new URLSearchParams(address)), {
    translates: true,
  });
  return asked.narrowed({ load });
}

/** Whether the viewer may see all that a note, a pin or a step is about: no part of it stands in for the whole. */
export async function maySeeSubject(
  ctx: Context,
  viewer: Viewer,
  { subject: text, entities }: { subject: string; entities: readonly string[] },
): Promise<boolean> {
  if (!entities.every((e) => maySee(viewer, e))) return false;
  const subject = readSubject(text);
  if (isWritten(subject)) return (await aboutWritten(ctx, viewer, subject)) !== null;
  if (seesWhole(viewer)) return true;
  // Documents are of whole books, and whoever sees a part of them sees none.
  if (subject.is === 'document') return false;
  try {
    if (subject.is !== 'figure') return (await linesOfSubject(ctx, viewer, subject, null)).lines.length > 0;
    return (await figureAt(ctx, viewer, subject.address, null)).address === subject.address;
  } catch (error) {
    if (error instanceof ProblemError) return false;
    throw error;
  }
}

/** Those of which the viewer may see the subject. */
export async function withSeenSubject<Row extends { subject: string; entities: readonly string[] }>(
  ctx: Context,
  viewer: Viewer,
  rows: readonly Row[],
): Promise<Row[]> {
  const seen = await Promise.all(rows.map((row) => maySeeSubject(ctx, viewer, row)));
  return rows.filter((_, i) => seen[i]);
}

/** The subject as the viewer may see it, in its canonical form, with the entities that it is about. @throws ProblemError */
export async function canonicalSubject(
  ctx: Context,
  viewer: Viewer,
  text: string,
): Promise<{ subject: Subject; entities: string[] }> {
  const subject = readSubject(text);
  if (subject.is === 'figure') {
    const asked = await figureAt(ctx, viewer, subject.address, null);
    return { subject: { is: 'figure', address: asked.address }, entities: asked.figure.entities };
  }
  if (isWritten(subject)) {
    const about = await aboutWritten(ctx, viewer, subject);
    if (about === null) throw notFound(`That ${subject.is}`);
    return { subject, entities: about };
  }
  if (subject.is === 'document') await documentOf(ctx, viewer, subject);
  else await linesOfSubject(ctx, viewer, subject, null);
  return { subject, entities: [subject.entity] };
}

/** The companies that something written is about; null where it is not there, or not for the viewer to see. */
async function aboutWritten(ctx: Context, viewer: Viewer, { is, id }: WrittenSubject): Promise<string[] | null> {
  if (is === 'thread') {
    const thread = await readThread(ctx.write, id);
    const may = thread && (await rightsOf(ctx.write, 'thread', viewer, [thread])).get(id);
    const steps = may && goesAsFarAs(may, 'open') ? await stepsOf(ctx.write, [id]) : null;
    if (steps === null || (await withSeenSubject(ctx, viewer, steps)).length < steps.length) return null;
    return [...new Set(steps.flatMap((k) => k.entities))];
  }
  const row = await readEvidence(ctx.write, is, id);
  if (!row || !(await maySeeSubject(ctx, viewer, row))) return null;
  return row.entities;
}

/** The lines of a document, as the address of a figure. */
export const figureOfDocument = (entity: string, number: string): string =>
  new URLSearchParams({ entity, window: 'everything', status: 'all', document: exactly(number) }).toString();

/** The address of what a pin froze, where that is a figure or all lines of a document. */
export const addressOfPinned = (subject: Subject): string => {
  if (subject.is === 'figure') return subject.address;
  if (subject.is === 'document') return figureOfDocument(subject.entity, subject.number);
  throw wrong('subject', `a ${subject.is} has no lines of its own`);
};

/** A document that came, or that lines name. @throws ProblemError where there is neither */
export async function documentOf(ctx: Context, viewer: Viewer, { entity: code, number }: Subject & { is: 'document' }) {
  requireWhole(viewer, 'Documents are');
  const entity = (await known(ctx.read)).catalogue.entities.get(code);
  if (!entity || !maySee(viewer, code)) throw notFound(`Document ${number}`);
  const asked = await figureAt(ctx, viewer, figureOfDocument(code, number), null);
  const [[document], lines] = await Promise.all([
    documentsNumbered(ctx.read, [entity.id], [number]),
    figureTotal(ctx, asked),
  ]);
  if (!document && lines.count === 0) throw notFound(`Document ${number}`);
  return { document: document ?? null, lines, asked };
}

/** Lines of entries that one viewer asks for at once are read at once: a thousand rows are ticked in a few questions. */
const loaders = new WeakMap<Viewer, Map<string, DataLoader<string, StoredLine[] | null>>>();
const AT_ONCE = 500;

function linesByNumber(ctx: Context, viewer: Viewer, asked: ResolvedFigure, entity: string, asOf: number) {
  const mine = loaders.get(viewer) ?? new Map<string, DataLoader<string, StoredLine[] | null>>();
  loaders.set(viewer, mine);
  const key = JSON.stringify([ctx.home, entity, asOf, asked.figure.load]);
  const held =
    mine.get(key) ??
    new DataLoader<string, StoredLine[] | null>(
      async (numbers) => {
        // Whoever asks from now on is read anew: names and lines may be others by then.
        mine.delete(key);
        const heads = await findEntries(ctx.read, { entity, numbers, asOf });
        const ids = [...heads.values()].map((e) => e.id);
        const lines = await linesOfEntries(ctx.read, asked.unweighed, ids, asOf);
        const byEntry = new Map<string, StoredLine[]>();
        for (const number of heads.keys()) byEntry.set(number, []);
        for (const line of lines) byEntry.get(line.entry)?.push(line);
        return numbers.map((number) => byEntry.get(number) ?? null);
      },
      { cache: false, maxBatchSize: AT_ONCE },
    );
  mine.set(key, held);
  return held;
}

/** The lines that a line or entry subject names, as of a load. @throws ProblemError if there are none */
export async function linesOfSubject(ctx: Context, viewer: Viewer, subject: EnteredSubject, load: number | null) {
  const names = await known(ctx.read);
  const entity = names.catalogue.entities.get(subject.entity);
  const asOf = load ?? names.newest;
  if (!entity || !maySee(viewer, entity.code)) throw notFound(`Entry ${subject.entry}`);
  const asked = ResolvedFigure.ofWholeBooks(viewer, entity, names, load);
  const lines = await linesByNumber(ctx, viewer, asked, entity.code, asOf).load(subject.entry);
  if (lines === null) throw notFound(`Entry ${subject.entry}`);
  const wanted = subject.is === 'line' ? lines.filter((l) => l.line === subject.line) : lines;
  const within = { chart: entity.chart, trees: names.catalogue.trees };
  if (wanted.length === 0 || !wanted.every((l) => seesLine(viewer, l, within)))
    throw notFound(`That line of entry ${subject.entry}`);
  return { lines: wanted, asked };
}
