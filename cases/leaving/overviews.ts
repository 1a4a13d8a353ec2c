import type { z } from 'zod';
import type { newOverviewSchema, overviewChangeSchema } from '@/contracts/bodies/all';
import { forbidden, notFound, wrong } from '@/contracts/problem';
import type { QueryOf } from '@/contracts/routes';
import type { Leaf } from '@/core/leaf';
import { xlsxLeaves } from '@/exchange/leaves/xlsxLeaf';
import { changeOverview, insertOverview, listOverviews, type OverviewRow, readOverview } from '@/store/overviews';
import type { Context } from '../asking/context';
import { given } from '../asking/given';
import { headName, onRecord } from '../asking/onRecord';
import type { Viewer } from '../asking/viewer';
import type { Exported } from '../exports/exportData';
import { leafOf } from './leafOf';
import { driven } from './packs';
import { panelOf } from './panel';
import { maySeeReports, nameTaken, orNameTaken, seenReport } from './reports';
import { fileNameOf, leavingOf, MEDIA, onPaper } from './takeOut';

/** Pages of panels: the viewer's own, and those that are shared of which they may run every report. */
export async function showOverviews(ctx: Context, viewer: Viewer) {
  const rows = (await listOverviews(ctx.write)).filter((row) => row.person === viewer.id || row.shared);
  const seen = await Promise.all(rows.map((row) => mayRead(ctx, viewer, row)));
  return { rows: rows.filter((_, i) => seen[i]).map((row) => shown(row, viewer)) };
}

export const showOverview = async (ctx: Context, viewer: Viewer, id: number) =>
  shown(await seen(ctx, viewer, id), viewer);

export async function keepOverview(ctx: Context, viewer: Viewer, body: z.infer<typeof newOverviewSchema>) {
  await Promise.all(body.panels.map((p) => seenReport(ctx, viewer, p.report)));
  const id = await insertOverview(ctx.write, { ...body, person: viewer.id });
  if (id === null) throw nameTaken(body.name);
  return showOverview(ctx, viewer, id);
}

export async function overviewChanged(
  ctx: Context,
  viewer: Viewer,
  id: number,
  { restored, ...change }: z.infer<typeof overviewChangeSchema>,
) {
  const row = await own(ctx, viewer, id, restored === true);
  await Promise.all((change.panels ?? []).map((p) => seenReport(ctx, viewer, p.report)));
  await changeOverview(ctx.write, id, { ...given(change), ...(restored ? { removed_at: null } : {}) }).catch(
    orNameTaken(change.name ?? row.name),
  );
  return showOverview(ctx, viewer, id);
}

export async function dropOverview(ctx: Context, viewer: Viewer, id: number): Promise<void> {
  await own(ctx, viewer, id, false);
  await changeOverview(ctx.write, id, { removed_at: new Date() });
}

/** What a panel shows, as its reader may see it, under what drives the page. @throws ProblemError as its sheet does */
export async function showPanel(
  ctx: Context,
  viewer: Viewer,
  id: number,
  key: string,
  { dims: _dims, ...read }: QueryOf<'GET /overviews/{id}/panels/{key}'>,
) {
  const row = await seen(ctx, viewer, id);
  const panel = row.panels.find((p) => p.key === key);
  if (!panel) throw notFound(`Panel ${key}`);
  const report = await seenReport(ctx, viewer, panel.report);
  const put = drivenBy(row, read);
  return panelOf(ctx, viewer, { report, kind: panel.kind, put });
}

type Read = Omit<QueryOf<'GET /overviews/{id}/panels/{key}'>, 'dims'>;

/** What drives a page: its own scope, and in place of it what its reader says. */
function drivenBy(row: OverviewRow, { window, from, to, entity }: Read): Record<string, string[]> {
  const put: Record<string, string[]> = { ...row.scope };
  if (window || from || to) for (const name of ['window', 'from', 'to']) delete put[name];
  for (const [name, value] of Object.entries({ window, from, to, entity }))
    if (value !== undefined) put[name] = [value].flat();
  return put;
}

/** The sheets of a page in full, each of its reports once, in the order in which the panels stand. @throws ProblemError */
export async function overviewLeaves(
  ctx: Context,
  viewer: Viewer,
  id: number,
  read: Read,
): Promise<{ name: string; leaves: Leaf[] }> {
  const row = await seen(ctx, viewer, id);
  const put = drivenBy(row, read);
  const order = [...row.panels].sort((a, b) => a.y - b.y || a.x - b.x).map((p) => p.report);
  const leaves: Leaf[] = [];
  for (const report of [...new Set(order)]) {
    const found = await seenReport(ctx, viewer, report);
    const leaf = await leafOf(ctx, viewer, driven(found.path, put).path);
    leaves.push({ ...leaf, title: found.how.title ?? found.name });
  }
  if (leaves.length === 0) throw wrong('panels', 'there are no panels on this page yet');
  return { name: row.name, leaves };
}

/** A page of panels on paper or as a workbook, put on record before it leaves. @throws ProblemError */
export async function overviewFile(
  ctx: Context,
  viewer: Viewer,
  id: number,
  { format, window, from, to, entity, dims: _dims, ...how }: QueryOf<'GET /overviews/{id}/file'>,
): Promise<Exported> {
  const { name, leaves } = await overviewLeaves(ctx, viewer, id, { window, from, to, entity });
  const title = how.title ?? name;
  const head = await onRecord(ctx, viewer, (_, record) =>
    record('exported', `overview ${id}`, { what: 'overview', title, format }),
  );
  const leaving = await leavingOf(ctx, viewer, { ...how, title: undefined }, headName(head));
  const stream =
    format === 'xlsx'
      ? await xlsxLeaves(leaves, { ...leaving, title })
      : await onPaper(leaves, leaving, { title, about: leaves[0]?.sentence ?? '', paragraphs: [] });
  return { stream, fileName: `${fileNameOf(title)}-${headName(head)}.${format}`, mediaType: MEDIA[format], head };
}

async function mayRead(ctx: Context, viewer: Viewer, row: OverviewRow): Promise<boolean> {
  if (row.person === viewer.id) return true;
  const reports = row.panels.map((p) => p.report);
  return row.shared && maySeeReports(ctx, viewer, reports);
}

async function seen(ctx: Context, viewer: Viewer, id: number): Promise<OverviewRow> {
  const row = await readOverview(ctx.write, id);
  if (!row || row.removed_at || !(await mayRead(ctx, viewer, row))) throw notFound(`Overview ${id}`);
  return row;
}

async function own(ctx: Context, viewer: Viewer, id: number, removed: boolean): Promise<OverviewRow> {
  const row = await readOverview(ctx.write, id);
  if (!row || (row.removed_at && !removed)) throw notFound(`Overview ${id}`);
  if (row.person === viewer.id) return row;
  await seen(ctx, viewer, id);
  throw forbidden(`Only ${row.person_name} can change “${row.name}”`);
}

const shown = (row: OverviewRow, viewer: Viewer) => ({
  id: row.id,
  name: row.name,
  panels: row.panels,
  scope: row.scope,
  shared: row.shared,
  mine: row.person === viewer.id,
  by: row.person_name,
  at: row.at.toISOString(),
});
