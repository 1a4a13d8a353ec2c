import type { z } from 'zod';
import type { newReportSchema, reportChangeSchema } from '@/contracts/bodies/all';
import { forbidden, notFound, ProblemError } from '@/contracts/problem';
import {
  changeReport,
  insertReport,
  keepReportVersion,
  listReports,
  type ReportRow,
  readReport,
  reportVersions,
} from '@/store/leaving';
import type { Context } from '../asking/context';
import { given } from '../asking/given';
import { maySee, type Viewer } from '../asking/viewer';
import { leafOf, sheetPath } from './leafOf';

/** Reports that the viewer may run: their own, and those that are shared of companies that they see. */
export async function showReports(ctx: Context, viewer: Viewer) {
  const rows = (await listReports(ctx.write)).filter((row) => mayRun(viewer, row));
  return { rows: rows.map((row) => shown(row, viewer)) };
}

export async function showReport(ctx: Context, viewer: Viewer, id: number) {
  const row = await seenReport(ctx, viewer, id);
  const versions = await reportVersions(ctx.write, id);
  return {
    ...shown(row, viewer),
    versions: versions.map(({ version, path, person_name, at }) => ({
      ...{ version, path, by: person_name, at: at.toISOString() },
    })),
  };
}

/** Keeps a sheet with how it leaves under a name. @throws ProblemError 409 where the name is taken */
export async function keepReport(ctx: Context, viewer: Viewer, body: z.infer<typeof newReportSchema>) {
  await leafOf(ctx, viewer, body.path);
  const id = await ctx.write.transaction(async (trx) => {
    const made = await insertReport(trx, { ...body, person: viewer.id });
    if (made !== null) await keepReportVersion(trx, { ...body, id: made, version: 1 }, viewer);
    return made;
  });
  if (id === null) throw nameTaken(body.name);
  return showReport(ctx, viewer, id);
}

/** Changes a report of one's own; what it asks and how it leaves is kept as a version, and what was before stays readable. */
export async function reportChanged(
  ctx: Context,
  viewer: Viewer,
  id: number,
  { restored, ...change }: z.infer<typeof reportChangeSchema>,
) {
  const row = await own(ctx, viewer, id, restored === true);
  if (change.path !== undefined) await leafOf(ctx, viewer, change.path);
  const said = given(change);
  const next = { ...row, ...said };
  const another = (['path', 'page', 'format', 'how'] as const).some(
    (field) => JSON.stringify(next[field]) !== JSON.stringify(row[field]),
  );
  const version = another ? row.version + 1 : row.version;
  await ctx.write
    .transaction(async (trx) => {
      await changeReport(trx, id, { ...said, version, ...(restored ? { removed_at: null } : {}) });
      if (another) await keepReportVersion(trx, { ...next, version }, viewer);
    })
    .catch(orNameTaken(next.name));
  return showReport(ctx, viewer, id);
}

/** Takes a report away; it can be brought back. */
export async function dropReport(ctx: Context, viewer: Viewer, id: number): Promise<void> {
  await own(ctx, viewer, id, false);
  await changeReport(ctx.write, id, { removed_at: new Date() });
}

/** PostgreSQL: unique_violation. */
const UNIQUE = '23505';

export const nameTaken = (name: string): ProblemError =>
  new ProblemError(409, 'The name is taken', [{ path: 'name', message: `another of yours is called “${name}”` }]);

/** Tells of a name that another has by now, where a change failed for it. */
export const orNameTaken =
  (name: string) =>
  (error: { code?: string }): never => {
    throw error.code === UNIQUE ? nameTaken(name) : error;
  };

/** A report that the viewer may run. @throws ProblemError 404 */
export async function seenReport(ctx: Context, viewer: Viewer, id: number): Promise<ReportRow> {
  const row = await readReport(ctx.write, id);
  if (!row || row.removed_at || !mayRun(viewer, row)) throw notFound(`Report ${id}`);
  return row;
}

/** Whether the viewer may run every one of some reports. */
export async function maySeeReports(ctx: Context, viewer: Viewer, ids: readonly number[]): Promise<boolean> {
  const rows = await Promise.all(ids.map((id) => readReport(ctx.write, id)));
  return rows.every((row) => row !== null && row.removed_at === null && mayRun(viewer, row));
}

async function own(ctx: Context, viewer: Viewer, id: number, removed: boolean): Promise<ReportRow> {
  const row = await readReport(ctx.write, id);
  if (!row || (row.removed_at !== null && !removed) || !mayRun(viewer, row)) throw notFound(`Report ${id}`);
  if (row.person !== viewer.id)
    throw forbidden(`Only ${row.person_name} can change “${row.name}”; keep it under a name of your own`);
  return row;
}

/** Whoever runs a report sees of it what they may see; what it is called and asks is told to who sees its companies. */
function mayRun(viewer: Viewer, row: ReportRow): boolean {
  if (row.person === viewer.id) return true;
  return (
    row.shared &&
    sheetPath(row.path)
      .params.getAll('entity')
      .every((entity) => maySee(viewer, entity)) &&
    namesNothingElse(viewer, row)
  );
}

/** No account by its code: none, or all of some types. */
const OF_TYPES = /^(type [a-z]+(, ?type [a-z]+)*)?$/;

/** A sentence with members or accounts names what its reader may not know of, unless they see whole books. */
function namesNothingElse(viewer: Viewer, row: ReportRow): boolean {
  if (viewer.accounts === null && Object.keys(viewer.members).length === 0) return true;
  const { params } = sheetPath(row.path);
  const { accounts = '' } = Object.fromEntries(params);
  return OF_TYPES.test(accounts) && ![...params.keys()].some((name) => name.startsWith('dim.'));
}

const shown = (row: ReportRow, viewer: Viewer) => ({
  id: row.id,
  name: row.name,
  folder: row.folder,
  path: row.path,
  page: row.page,
  format: row.format,
  how: row.how,
  shared: row.shared,
  version: row.version,
  mine: row.person === viewer.id,
  by: row.person_name,
  at: row.at.toISOString(),
});
