import type { z } from 'zod';
import type { newOverviewSchema, overviewChangeSchema } from '@/contracts/bodies/all';
import { forbidden, notFound } from '@/contracts/problem';
import type { QueryOf } from '@/contracts/routes';
import { changeOverview, insertOverview, listOverviews, type OverviewRow, readOverview } from '@/store/overviews';
import type { Context } from '../asking/context';
import { given } from '../asking/given';
import type { Viewer } from '../asking/viewer';
import { panelOf } from './panel';
import { maySeeReports, nameTaken, orNameTaken, seenReport } from './reports';

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
  const put: Record<string, string[]> = { ...row.scope };
  if (read.window || read.from || read.to) for (const name of ['window', 'from', 'to']) delete put[name];
  for (const [name, value] of Object.entries(read)) if (value !== undefined) put[name] = [value].flat();
  return panelOf(ctx, viewer, { report, kind: panel.kind, put });
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
