import type { PanelKind } from '@/contracts/panels';
import { scopeAmong } from '@/contracts/scope';
import { type LeafRow, loadOf, onFile, plainCell, plainCells } from '@/core/leaf';
import { isTemporary } from '@/core/ledger';
import type { ReportRow } from '@/store/leaving';
import type { Context } from '../asking/context';
import { resolveFigure } from '../asking/resolveFigure';
import type { Viewer } from '../asking/viewer';
import { readOverTime } from '../sheets/readOverTime';
import { readTotals } from '../sheets/readTotals';
import { leafOf } from './leafOf';
import { driven, putInto } from './packs';

/** Rows that a panel has room for; the rest is counted. */
const ROWS_SHOWN = 60;
/** Beyond so many rows a panel counts no further. */
const COUNTED_MAX = 5_000;
/** Periods of a figure's course: a year and the same period of the one before. */
const COURSE = 13;

/**
 * A report as a panel shows it: its first rows, what all comes to, its figure with its course.
 * @param put what takes the place of the report's own window, company or member
 */
export async function panelOf(
  ctx: Context,
  viewer: Viewer,
  { report, kind, put }: { report: ReportRow; kind: PanelKind; put: Readonly<Record<string, string[]>> },
) {
  const { path, params } = driven(report.path, put);
  const leaf = onFile(await leafOf(ctx, viewer, path));
  const rows: LeafRow[] = [];
  let count = 0;
  for await (const each of leaf.rows) {
    count += 1;
    if (rows.length < ROWS_SHOWN) rows.push(each);
    if (count === COUNTED_MAX) break;
  }
  const told = kind === 'table' ? { figure: null, course: [] } : await figureOf(ctx, viewer, params);
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
