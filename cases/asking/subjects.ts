import { notFound, ProblemError } from '@/contracts/problem';
import { readQuery, scopeShape } from '@/contracts/scope';
import { readSubject, type Subject } from '@/contracts/subject';
import { findEntry } from '@/store/entries';
import { linesOfEntries } from '@/store/lines';
import { type Context, known } from './context';
import { ResolvedFigure } from './resolvedFigure';
import { resolveFigure } from './resolveFigure';
import { maySee, seesLine, seesWhole, type Viewer } from './viewer';

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
  if (seesWhole(viewer)) return true;
  const subject = readSubject(text);
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
  await linesOfSubject(ctx, viewer, subject, null);
  return { subject, entities: [subject.entity] };
}

/** The lines that a line or entry subject names, as of a load. @throws ProblemError if there are none */
export async function linesOfSubject(
  ctx: Context,
  viewer: Viewer,
  subject: Exclude<Subject, { is: 'figure' }>,
  load: number | null,
) {
  const names = await known(ctx.read);
  const entity = names.catalogue.entities.get(subject.entity);
  const asOf = load ?? names.newest;
  const head =
    entity && maySee(viewer, entity.code)
      ? await findEntry(ctx.read, { entity: entity.code, number: subject.entry, asOf })
      : null;
  if (!entity || !head) throw notFound(`Entry ${subject.entry}`);
  const asked = ResolvedFigure.ofWholeBooks(viewer, entity, names, load);
  const lines = await linesOfEntries(ctx.read, asked.unweighed, [head.id], asOf);
  const wanted = subject.is === 'line' ? lines.filter((l) => l.line === subject.line) : lines;
  const within = { chart: entity.chart, trees: names.catalogue.trees };
  if (wanted.length === 0 || !wanted.every((l) => seesLine(viewer, l, within)))
    throw notFound(`That line of entry ${subject.entry}`);
  return { lines: wanted, asked };
}
