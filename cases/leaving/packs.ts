import type { Readable } from 'node:stream';
import type { z } from 'zod';
import type { newPackSchema, packChangeSchema } from '@/contracts/bodies/all';
import type { How } from '@/contracts/leaving';
import { forbidden, notFound, wrong } from '@/contracts/problem';
import type { Block, Inline, RichText } from '@/contracts/richText';
import type { QueryOf } from '@/contracts/routes';
import { scopeAmong } from '@/contracts/scope';
import { readSubject } from '@/contracts/subject';
import { NONE } from '@/core/figure';
import type { Leaf } from '@/core/leaf';
import { xlsxLeaves } from '@/exchange/leaves/xlsxLeaf';
import { changePack, insertPack, listPacks, type PackRow, type ReportRow, readPack } from '@/store/leaving';
import { readHead } from '@/store/record';
import type { Context } from '../asking/context';
import { given } from '../asking/given';
import { headName, onRecord } from '../asking/onRecord';
import { spokenDecimal } from '../asking/spokenNumbers';
import { knownMembers, type Viewer } from '../asking/viewer';
import type { Exported } from '../exports/exportData';
import { readFigures } from '../sheets/readFigures';
import { brokenDown } from '../sheets/readSheet';
import { leafOf, sheetPath } from './leafOf';
import { maySeeReports, nameTaken, orNameTaken, seenReport } from './reports';
import { fileNameOf, leavingOf, MEDIA, onPaper } from './takeOut';

export async function showPacks(ctx: Context, viewer: Viewer) {
  const rows = (await listPacks(ctx.write)).filter((row) => row.shared || row.person === viewer.id);
  const seen = await Promise.all(rows.map((row) => maySeeReports(ctx, viewer, row.reports)));
  return { rows: rows.filter((_, i) => seen[i]).map((row) => shown(row, viewer)) };
}

export async function keepPack(ctx: Context, viewer: Viewer, body: z.infer<typeof newPackSchema>) {
  await Promise.all(body.reports.map((report) => seenReport(ctx, viewer, report)));
  const id = await insertPack(ctx.write, { ...body, person: viewer.id });
  if (id === null) throw nameTaken(body.name);
  return shown(await seenPack(ctx, viewer, id), viewer);
}

export async function packChanged(
  ctx: Context,
  viewer: Viewer,
  id: number,
  { restored, ...change }: z.infer<typeof packChangeSchema>,
) {
  const row = await readPack(ctx.write, id);
  if (!row || (row.removed_at && !restored)) throw notFound(`Pack ${id}`);
  if (row.person !== viewer.id) {
    await seenPack(ctx, viewer, id);
    throw forbidden(`Only ${row.person_name} can change “${row.name}”`);
  }
  await Promise.all((change.reports ?? []).map((report) => seenReport(ctx, viewer, report)));
  await changePack(ctx.write, id, { ...given(change), ...(restored ? { removed_at: null } : {}) }).catch(
    orNameTaken(change.name ?? row.name),
  );
  return shown(await seenPack(ctx, viewer, id), viewer);
}

export async function dropPack(ctx: Context, viewer: Viewer, id: number): Promise<void> {
  const row = await seenPack(ctx, viewer, id);
  if (row.person !== viewer.id) throw forbidden(`Only ${row.person_name} can take “${row.name}” away`);
  await changePack(ctx.write, id, { removed_at: new Date() });
}

/** A pack of which the viewer may run every report. @throws ProblemError 404 */
export async function seenPack(ctx: Context, viewer: Viewer, id: number): Promise<PackRow> {
  const row = await readPack(ctx.write, id);
  if (!row || row.removed_at || !(row.shared || row.person === viewer.id)) throw notFound(`Pack ${id}`);
  await reportsOf(ctx, viewer, row);
  return row;
}

/** The reports of a pack, in its order, as far as somebody may run them. @throws ProblemError 404 */
export const reportsOf = (ctx: Context, viewer: Viewer, row: PackRow) =>
  Promise.all(row.reports.map((report) => seenReport(ctx, viewer, report)));

/** One copy of a pack: of all of it, or of one unit. */
export interface PackCopy {
  title: string;
  /** What is put in place of each report's own. */
  put: Readonly<Record<string, readonly string[]>>;
}

/**
 * The copies that a pack comes to, as its viewer may see it: one, or one for each unit on which anything was booked in the
 * window of its first report; a unit that is new has one without anybody's doing.
 */
export async function copiesOf(
  ctx: Context,
  viewer: Viewer,
  pack: PackRow,
  reports: readonly ReportRow[],
): Promise<PackCopy[]> {
  if (pack.units === null) return [{ title: pack.name, put: pack.scope }];
  const [first] = reports;
  if (!first) return [];
  const query = scopeAmong(driven(first.path, pack.scope).params);
  const dimension = pack.units.startsWith('dim:') ? pack.units.slice('dim:'.length) : null;
  // Every member down to the last level, so that a new one is there whatever it lies beneath.
  const by = dimension === null ? pack.units : `dim:${dimension}@${DEEPEST}`;
  const sheet = await brokenDown(ctx, viewer, { ...query, by: [by], heavy: 'run' });
  const name = dimension === null ? 'entity' : `dim.${dimension}`;
  const tree = dimension === null ? undefined : sheet.asked.known.catalogue.trees.get(dimension);
  const known = dimension === null || !tree ? null : knownMembers(viewer, dimension, tree);
  return sheet.rows
    .filter(
      (row) =>
        row.depth === 0 &&
        row.member !== NONE &&
        row.cells.count?.is === 'count' &&
        row.cells.count.count > 0 &&
        (known === null || known.has(row.member)),
    )
    .map((row) => ({ title: `${pack.name}, ${row.label}`, put: { ...pack.scope, [name]: [row.member] } }));
}

/** The copies of a pack for the viewer. */
export async function showCopies(ctx: Context, viewer: Viewer, id: number) {
  const pack = await seenPack(ctx, viewer, id);
  const copies = await copiesOf(ctx, viewer, pack, await reportsOf(ctx, viewer, pack));
  return {
    rows: copies.map(({ title, put }) => ({
      title,
      put: Object.fromEntries(Object.entries(put).map(([name, values]) => [name, [...values]])),
    })),
  };
}

/** One of the copies as a file, put on record before it leaves. @throws ProblemError 404 */
export async function packCopyFile(
  ctx: Context,
  viewer: Viewer,
  id: number,
  { format, copy: at, ...how }: QueryOf<'GET /packs/{id}/file'>,
): Promise<Exported> {
  const pack = await seenPack(ctx, viewer, id);
  const reports = await reportsOf(ctx, viewer, pack);
  const copy = (await copiesOf(ctx, viewer, pack, reports))[at];
  if (!copy) throw notFound(`Copy ${at} of “${pack.name}”`);
  const stream = await packFile(ctx, viewer, pack, reports, copy, format, how);
  const head = await onRecord(ctx, viewer, (_, record) =>
    record('exported', `pack ${id}`, { what: 'pack', title: copy.title, format }),
  );
  return { stream, fileName: `${fileNameOf(copy.title)}-${headName(head)}.${format}`, mediaType: MEDIA[format], head };
}

/** Levels of a tree that a split tells apart. */
const DEEPEST = 9;

const WINDOW = ['from', 'to', 'window'];

/** Puts some parameters in place of others: a window takes the place of the whole window. */
export function putInto(params: URLSearchParams, put: PackCopy['put']): void {
  if (WINDOW.some((name) => put[name])) for (const name of WINDOW) params.delete(name);
  for (const [name, values] of Object.entries(put)) {
    params.delete(name);
    for (const value of values) params.append(name, value);
  }
}

/** A path under what a pack puts in place of its own. */
export function driven(path: string, put: PackCopy['put']): { path: string; params: URLSearchParams } {
  const { params } = sheetPath(path);
  putInto(params, put);
  return { path: `${path.split('?')[0]}?${params}`, params };
}

/** A copy of a pack as a file: its front page with the figures of its own window, then each report. */
export async function packFile(
  ctx: Context,
  viewer: Viewer,
  pack: PackRow,
  reports: readonly ReportRow[],
  copy: PackCopy,
  format: 'pdf' | 'xlsx',
  how: How = {},
): Promise<Readable> {
  const leaves: Leaf[] = [];
  for (const report of reports) {
    const leaf = await leafOf(ctx, viewer, driven(report.path, copy.put).path);
    leaves.push({ ...leaf, title: report.how.title ?? report.name });
  }
  const leaving = await leavingOf(ctx, viewer, how, headName(await readHead(ctx.read)));
  if (format === 'xlsx') return xlsxLeaves(leaves, { ...leaving, title: copy.title });
  const words = pack.words ? await wordsOf(ctx, viewer, pack.words, copy.put) : [];
  return onPaper(leaves, leaving, {
    title: copy.title,
    about: leaves[0]?.sentence ?? '',
    paragraphs: words,
  });
}

/** @throws ProblemError for formats that hold one sheet */
export function packFormat(format: string): 'pdf' | 'xlsx' {
  if (format === 'pdf' || format === 'xlsx') return format;
  throw wrong('formats', `a pack leaves on paper (pdf) or as a workbook (xlsx); ${format} holds one sheet`);
}

/** Narrative as paragraphs; each figure that it quotes is what it comes to in the window of the copy. */
async function wordsOf(ctx: Context, viewer: Viewer, words: RichText, put: PackCopy['put']): Promise<string[]> {
  const said = async (inline: Inline): Promise<string> => {
    if (inline.type === 'text') return inline.text;
    if (inline.type === 'hardBreak') return '\n';
    if (inline.type === 'mention') return `@${inline.attrs.name}`;
    const subject = readSubject(inline.attrs.subject);
    if (subject.is !== 'figure') return inline.attrs.value ?? inline.attrs.label;
    const { params } = driven(`/lines?${subject.address}`, put);
    const measure = inline.attrs.measure ?? 'closing';
    const [figure] = (await readFigures(ctx, viewer, [{ scope: params.toString(), measure }])).figures;
    // What its reader may not see, or cannot be asked in this window, is not told.
    return figure?.value ? `${spokenDecimal(figure.value)} ${figure.currency ?? ''}`.trim() : '—';
  };
  const paragraph = async (content: readonly Inline[] = []): Promise<string> =>
    (await Promise.all(content.map(said))).join('');
  const blocks = async (content: readonly Block[], before = ''): Promise<string[]> =>
    (
      await Promise.all(
        content.map(async (block): Promise<string[]> => {
          if (block.type === 'paragraph') return [`${before}${await paragraph(block.content)}`];
          if (block.type === 'blockquote') return blocks(block.content, before);
          const items = await Promise.all(
            block.content.map((item, n) => blocks(item.content, block.type === 'orderedList' ? `${n + 1}. ` : '– ')),
          );
          return items.flat();
        }),
      )
    ).flat();
  return (await blocks(words.content)).filter((text) => text.trim() !== '');
}

const shown = (row: PackRow, viewer: Viewer) => ({
  id: row.id,
  name: row.name,
  words: row.words,
  reports: row.reports,
  units: row.units,
  scope: row.scope,
  shared: row.shared,
  mine: row.person === viewer.id,
  by: row.person_name,
  at: row.at.toISOString(),
});
