import type { z } from 'zod';
import type { newOverviewSchema, overviewChangeSchema } from '@/contracts/bodies/all';
import { forbidden, notFound } from '@/contracts/problem';
import type { QueryOf } from '@/contracts/routes';
import { scopeAmong } from '@/contracts/scope';
import { type LeafRow, loadOf, onFile, plainCell, plainCells } from '@/core/leaf';
import { isTemporary } from '@/core/ledger';
import { changeOverview, insertOverview, listOverviews, type OverviewRow, readOverview } from '@/store/overviews';
import type { Context } from '../asking/context';
import { given } from '../asking/given';
import { resolveFigure } from '../asking/resolveFigure';
import type { Viewer } from '../asking/viewer';
import { readOverTime } from '../sheets/readOverTime';
import { readTotals } from '../sheets/readTotals';
import { leafOf } from './leafOf';
import { driven, putInto } from './packs';
import { maySeeReports, nameTaken, orNameTaken, seenReport } from './reports';

/** Rows that a panel has room for; the rest is counted. */
const ROWS_SHOWN = 60;
/** Beyond so many rows a panel counts no further. */
const COUNTED_MAX = 5_000;
/** Periods of a figure's course: a year and the same period of the one before. */
const COURSE = 13;

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
  const { path, params } = driven(report.path, put);
  const leaf = onFile(await leafOf(ctx, viewer, path));
  const rows: LeafRow[] = [];
  let count = 0;
  for await (const each of leaf.rows) {
    count += 1;
    if (rows.length < ROWS_SHOWN) rows.push(each);
    if (count === COUNTED_MAX) break;
  }
  const told = panel.kind === 'table' ? { figure: null, course: [] } : await figureOf(ctx, viewer, params);
  const digits = leaf.columns.find((c) => c.is === 'amount')?.digits ?? 2;
  return {
    ...{ name: report.how.title ?? report.name, sentence: leaf.sentence },
    ...{ currency: leaf.facts.find(([name]) => name === 'Currency')?.[1] ?? '', load: loadOf(leaf) },
    columns: leaf.columns.map(({ key: column, label, is, digits }) => ({ key: column, label, is, digits })),
    rows: rows.map((each) => ({
      ...{ key: each.key, depth: each.depth, look: each.look, cells: plainCells(leaf.columns, each.cells) },
      // The lines of a row are a place of their own.
      page: each.behind === null ? null : `/lines?${linesOf(each.behind)}`,
      value: told.figure ? plainCell(each.cells[told.figure.measure], digits) : null,
    })),
    count,
    total: leaf.total && plainCells(leaf.columns, leaf.total.cells),
    proofs: [...leaf.proofs()],
    page: pageUnder(report.page, put),
    ...told,
  };
}

/** What asks for the lines behind a row, whichever sheet comes first. */
function linesOf(behind: string): string {
  const params = new URLSearchParams(behind.split('?')[1] ?? '');
  params.delete('by');
  return params.toString();
}

/** The page of a report under what drives it. */
function pageUnder(page: string, put: Readonly<Record<string, readonly string[]>>): string {
  const [place = '', query = ''] = page.split(/\?(.*)/s);
  const params = new URLSearchParams(query);
  putInto(params, put);
  return `${place}?${params}`;
}

/** The figure of a sheet and its course: of income and expense what moved, of anything else how it closed. */
async function figureOf(ctx: Context, viewer: Viewer, params: URLSearchParams) {
  const scope = scopeAmong(params);
  const asked = await resolveFigure(ctx, viewer, scope, { translates: true });
  const measure = asked.books.every(({ own, entity }) => {
    const types = (own ?? []).flatMap((id) => entity.accountOf.get(id)?.type ?? []);
    return types.length > 0 && types.every(isTemporary);
  })
    ? 'movement'
    : 'closing';
  const [{ total }, { points }] = await Promise.all([
    readTotals(ctx, viewer, scope),
    readOverTime(ctx, viewer, { ...scope, measure, periods: COURSE }),
  ]);
  return {
    figure: { measure, value: total[measure] } as const,
    course: points.map(({ period, name, value, inWindow }) => ({ period, name, value, inWindow })),
  };
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
