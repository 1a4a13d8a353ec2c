import type { Readable } from 'node:stream';
import type { LeafFormat } from '@/contracts/leaves';
import type { How } from '@/contracts/leaving';
import { ProblemError } from '@/contracts/problem';
import { subjectText } from '@/contracts/subject';
import { type Leaf, type LeafRow, loadOf } from '@/core/leaf';
import { csvLeaf } from '@/exchange/leaves/csvLeaf';
import { jsonLeaf } from '@/exchange/leaves/jsonLeaf';
import type { Leaving } from '@/exchange/leaves/leaving';
import { type FrontPage, PAPER_ROWS_MAX, pdfLeaves } from '@/exchange/leaves/pdfLeaf';
import { xlsxLeaves } from '@/exchange/leaves/xlsxLeaf';
import { signerOf } from '@/exchange/signing';
import { whoAsks } from '@/store/asking';
import { readHead } from '@/store/record';
import type { Context } from '../asking/context';
import { headName, onRecord } from '../asking/onRecord';
import { publicAddress } from '../asking/publicAddress';
import { spokenCount } from '../asking/spokenNumbers';
import type { Viewer } from '../asking/viewer';
import type { Exported } from '../exports/exportData';
import { type LeavingRoute, leafOf, leafOfRoute, sheetPath } from './leafOf';
import { letterheadOf } from './letterhead';
import { withNotes } from './withNotes';

export const MEDIA: Record<LeafFormat, string> = {
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  pdf: 'application/pdf',
  csv: 'text/csv; charset=utf-8',
  json: 'application/json',
};

/** A sheet as a file, as its viewer may see it, put on record before it leaves. @throws ProblemError as its route does */
export async function takeOut(
  ctx: Context,
  viewer: Viewer,
  path: string,
  format: LeafFormat,
  how: How,
): Promise<Exported> {
  const { name, of, params } = sheetPath(path);
  const leaf = await leafOf(ctx, viewer, path);
  return leave(ctx, viewer, { name, of, params }, leaf, format, how);
}

/** The same of a question that its route has read already. */
export async function takeOutRead(
  ctx: Context,
  viewer: Viewer,
  {
    name,
    of,
    query,
    search,
  }: {
    name: LeavingRoute;
    of: string;
    query: object & { format?: LeafFormat | undefined } & How;
    search: URLSearchParams;
  },
): Promise<Exported> {
  const leaf = await leafOfRoute(ctx, viewer, name, of, query);
  return leave(ctx, viewer, { name, of, params: search }, leaf, query.format ?? 'csv', query);
}

async function leave(
  ctx: Context,
  viewer: Viewer,
  { name, of, params }: { name: LeavingRoute; of: string; params: URLSearchParams },
  found: Leaf,
  format: LeafFormat,
  how: How,
): Promise<Exported> {
  const leaf = how.notes === 'with' ? await withNotes(ctx, viewer, found, params.getAll('entity')) : found;
  if (how.preview === 'yes' && format === 'pdf') return previewed(ctx, viewer, leaf, how);
  const what = of === '' ? name.slice('GET /'.length) : `${name.slice('GET /'.length).split('/{')[0]} ${of}`;
  const head = await onRecord(ctx, viewer, (_, record) =>
    record('exported', subjectText({ is: 'figure', address: leaf.address?.split('?')[1] ?? '' }), {
      what,
      title: how.title ?? leaf.title,
      format,
      load: loadOf(leaf),
      ...(how.notes === 'with' ? { notes: 'with' } : {}),
      ...(how.details && how.details !== '0' ? { details: Number(how.details) } : {}),
    }),
  );
  const leaving = await leavingOf(ctx, viewer, how, headName(head));
  const stream = await written(how.page === undefined ? leaf : { ...leaf, address: how.page }, format, leaving);
  return {
    stream,
    fileName: `${fileNameOf(how.title ?? leaf.title)}-${headName(head)}.${format}`,
    mediaType: MEDIA[format],
    head,
  };
}

/** So many rows are set to show how paper will look. */
const PREVIEW_ROWS = 200;

/** The first pages of what would leave. Nothing leaves by it that its viewer has not on the screen, and it says what it is. */
async function previewed(ctx: Context, viewer: Viewer, leaf: Leaf, how: How): Promise<Exported> {
  const first = async function* (): AsyncGenerator<LeafRow> {
    let rows = 0;
    for await (const row of leaf.rows) {
      if (rows === PREVIEW_ROWS) return;
      rows += 1;
      yield row;
    }
  };
  const leaving = await leavingOf(ctx, viewer, how, 'none: this is a preview');
  const address = how.page ?? leaf.address;
  const stream = await written({ ...leaf, address, rows: first() }, 'pdf', {
    ...leaving,
    footer: how.footer ?? 'Preview',
  });
  return { stream, fileName: 'preview.pdf', mediaType: MEDIA.pdf, head: await readHead(ctx.read) };
}

/** How a sheet leaves, with all that is said on it of who took it out. */
export async function leavingOf(ctx: Context, viewer: Viewer, how: How, record: string): Promise<Leaving> {
  return {
    title: how.title ?? null,
    footer: how.footer ?? null,
    heading: how.heading !== 'without',
    letterhead: how.letterhead === 'without' ? null : await letterheadOf(ctx),
    by: viewer.name,
    at: new Date().toISOString(),
    record,
    locale: how.language ?? whoAsks()?.locale ?? 'en',
    decimals: how.decimals ?? 'exact',
    paper: { size: how.paper ?? 'a4', orientation: how.orientation ?? 'fitting' },
    details: Number(how.details ?? '0') as 0 | 1 | 2,
    behind: (path) => leafOf(ctx, viewer, path),
    link: (place) =>
      publicAddress(
        place.startsWith('/sheets?') ? `/lines?${place.slice('/sheets?'.length).replace(/&by=[^&]*$/, '')}` : place,
      ),
    signer: how.protect === 'yes' ? signerOf(ctx.home) : null,
  };
}

/** A sheet in a format. */
export async function written(leaf: Leaf, format: LeafFormat, leaving: Leaving): Promise<Readable> {
  switch (format) {
    case 'csv':
      return csvLeaf(leaf, leaving);
    case 'json':
      return jsonLeaf(leaf, leaving);
    case 'xlsx':
      return xlsxLeaves([leaf], leaving);
    case 'pdf':
      return onPaper([leaf], leaving, null);
  }
}

/** Sheets on paper, one after the other. @throws ProblemError of more rows than paper is for */
export const onPaper = (leaves: readonly Leaf[], leaving: Leaving, front: FrontPage | null): Promise<Readable> =>
  pdfLeaves(leaves, leaving, front).catch((error: unknown) => {
    if (error instanceof RangeError)
      throw new ProblemError(
        422,
        `Paper holds at most ${spokenCount(PAPER_ROWS_MAX)} rows; take a spreadsheet, or narrow the scope`,
      );
    throw error;
  });

/** A title as the name of a file: letters and digits of any script, with hyphens between. */
export const fileNameOf = (title: string): string =>
  title
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 60) || 'sheet';
