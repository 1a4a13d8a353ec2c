import type { z } from 'zod';
import type { draftEffectSchema } from '@/contracts/bodies/all';
import { notFound, ProblemError, wrong } from '@/contracts/problem';
import type { ScopeParams } from '@/contracts/scope';
import { type Ordinal, periodText, yearOf } from '@/core/calendar';
import { above } from '@/core/materiality';
import { change, formatAmount } from '@/core/money';
import { hasPosition } from '@/core/position';
import { effectOf, onResult, type ProposedFault, type ProposedLine } from '@/core/proposedEntry';
import { ratiosOf, standingOf } from '@/core/ratios';
import { periodName } from '@/core/sentence';
import { valueText } from '@/core/valueText';
import { budgetsOf } from '@/store/budgets';
import { touchCatalogue } from '@/store/catalogue';
import { oneAfterTheOther } from '@/store/db';
import { openProposed, TRIED } from '@/store/proposed';
import { hasTaxCodes } from '@/store/taxes';
import type { Context } from '../asking/context';
import { resolveFigure } from '../asking/resolveFigure';
import { maySee, seesWhole, type Viewer } from '../asking/viewer';
import { balancesByAccount } from '../balances/accountBalances';
import { seenPiece } from '../evidence/seenEvidence';
import { outlinesOf } from '../statements/outlines';
import { readStatement, type StatementParams } from '../statements/readStatement';
import { type BooksProposedIn, faultsIn, lay, linesWanted, proposedIn } from './lines';
import { materialFor } from './material';
import { triedSet } from './sets';
import { resultOf, seenLines, shownEffect, typeIn } from './shown';

/**
 * What an entry would do, before it is kept: it is laid down in a transaction that is taken back, and every statement is
 * asked with it and without. So what is told is what will be seen, by the same way of asking.
 */
export async function effectOfDraft(ctx: Context, viewer: Viewer, wanted: z.infer<typeof draftEffectSchema>) {
  const books = await proposedIn(ctx, viewer, wanted.entity);
  const lines = linesWanted(books, wanted);
  const faults = await faultsIn(ctx, viewer, books, lines);
  return effect(ctx, viewer, books, lines, { faults, tax: wanted.taxPercent });
}

/** The same of entries that were kept, in whichever state they are, together. @throws ProblemError */
export async function effectOfProposed(
  ctx: Context,
  viewer: Viewer,
  { ids, entity }: { ids: number[]; entity?: string | undefined },
) {
  const rows = await Promise.all(ids.map((id) => seenPiece(ctx, viewer, 'proposed', id)));
  const [first] = rows;
  if (!first) throw notFound('That entry');
  if (rows.some((r) => r.entity !== (entity ?? first.entity)))
    throw wrong('ids', 'entries of several companies are told one company at a time');
  const books = await proposedIn(ctx, viewer, first.entity);
  const lines = rows.flatMap((r) => seenLines(viewer, books, r.lines));
  const [tax = ''] = [...new Set(rows.map((r) => r.tax_percent))];
  return effect(ctx, viewer, books, lines, { faults: [], tax: rows.every((r) => r.tax_percent === tax) ? tax : '' });
}

interface Statement {
  code: string;
  name: string;
  window: string;
  rows: {
    key: string;
    label: string;
    booked: string | null;
    proposed: string | null;
    adjusted: string | null;
  }[];
}

async function effect(
  ctx: Context,
  viewer: Viewer,
  books: BooksProposedIn,
  lines: readonly ProposedLine[],
  { faults, tax }: { faults: ProposedFault[]; tax: string },
) {
  const { entity, digits } = books;
  // What does not stand cannot be laid down; that it does not balance yet hinders nothing.
  const layable = faults.every((f) => f.line === null);
  const statements = layable && lines.length > 0 && seesWhole(viewer) ? await tried(ctx, viewer, books, lines) : [];
  const years = yearsOf(lines);
  const material = years[0] === undefined ? null : await materialFor(ctx, entity.code, years[0], entity.currency);
  const result = resultOf(effectOf(lines, typeIn(books)));
  return {
    entity: entity.code,
    currency: entity.currency,
    faults,
    effect: shownEffect(books, lines, tax),
    statements,
    years: years.map((year) => {
      const { rollover, ironCurtain } = onResult(lines, typeIn(books), yearOf, year);
      return { year, rollover: formatAmount(rollover, digits), ironCurtain: formatAmount(ironCurtain, digits) };
    }),
    materiality: material && {
      overall: formatAmount(material.overall, digits),
      performance: formatAmount(material.performance, digits),
      trivial: formatAmount(material.trivial, digits),
      above: above(result, material),
    },
  };
}

/** Fiscal years that lines are in, and the one after them, in which what turns around would. */
function yearsOf(lines: readonly ProposedLine[]): number[] {
  const years = lines.map((l) => yearOf(l.period));
  if (years.length === 0) return [];
  const [first, last] = [Math.min(...years), Math.max(...years)];
  return Array.from({ length: last - first + 2 }, (_, i) => first + i);
}

class TakenBack extends Error {}

/** Asks the statements with the lines among those of the books, and takes the lines back. */
async function tried(
  ctx: Context,
  viewer: Viewer,
  books: BooksProposedIn,
  lines: readonly ProposedLine[],
): Promise<Statement[]> {
  const set = await triedSet(ctx.write);
  if (!books.entity.proposed.has(TRIED)) {
    await openProposed(ctx.write, set, books.entity.id);
    await touchCatalogue(ctx.write);
  }
  let found: Statement[] = [];
  const period = Math.max(...lines.map((l) => l.period));
  await ctx.write
    .transaction(async (trx) => {
      await lay(trx, books, set, { number: 'P-0000', said: '', lines });
      // Everything that is asked now is asked within the transaction, which nobody else sees.
      const db = oneAfterTheOther(trx);
      const within: Context = { ...ctx, read: db, write: db, patient: db };
      found = await statementsWith(within, viewer, books, period, lines);
      throw new TakenBack();
    })
    .catch((error: unknown) => {
      if (!(error instanceof TakenBack)) throw error;
    });
  return found;
}

/** One statement to be asked twice, and the column of it that is told. */
interface AskedStatement {
  code: string;
  by?: string;
  /** A column of it, in place of where it stands. */
  column?: string;
  /** With every other company, in the currency of this one. */
  group?: true;
  /** What it is called, after its own name. */
  says?: string;
}

/** Every statement of the company whose rows are changed, over the fiscal year to the period. */
async function statementsWith(
  ctx: Context,
  viewer: Viewer,
  books: BooksProposedIn,
  period: Ordinal,
  lines: readonly ProposedLine[],
): Promise<Statement[]> {
  const { entity, calendar: cal } = books;
  const [first] = cal.periodsOf(yearOf(period));
  const own = { from: periodText(first?.ordinal ?? period), to: periodText(period), dims: {} };
  const found: Statement[] = [];
  for (const asked of await statementsAsked(ctx, viewer, books, lines)) {
    const { code, by, column: wanted, group } = asked;
    const scope = {
      ...own,
      ...(group ? { in: entity.currency } : { entity: [entity.code] }),
      ...(wanted === undefined ? {} : { column: [wanted] }),
      by,
    };
    const both = await asBoth(ctx, viewer, code, scope);
    if (both === null) continue;
    const { booked, adjusted } = both;
    const column = wanted ?? columnOf(adjusted.columns);
    const before = new Map(booked.rows.map((row) => [row.key, row.values[column] ?? null]));
    const rows = adjusted.rows.flatMap((row): Statement['rows'] => {
      const [now, was] = [row.values[column] ?? null, before.get(row.key) ?? null];
      if (now === was || now === null) return [];
      const nothing = now.replace(/[1-9]/g, '0').replace('-', '');
      return [{ key: row.key, label: row.label, booked: was, proposed: change(now, was ?? nothing), adjusted: now }];
    });
    const key = [code, by, wanted, group && 'group'].filter(Boolean).join(' ');
    const name = `${adjusted.name}${asked.says ?? ''}`;
    if (rows.length > 0) found.push({ code: key, name, window: periodName(cal.period(period)), rows });
  }
  const rows = await ratiosWith(ctx, viewer, books, { ...own, entity: [entity.code] });
  if (rows.length > 0) found.push({ code: 'ratios', name: 'Ratios, %', window: periodName(cal.period(period)), rows });
  return found;
}

/** Ratios of the company that the lines change, in percent, and by how many points. */
async function ratiosWith(
  ctx: Context,
  viewer: Viewer,
  { entity, digits }: BooksProposedIn,
  scope: ScopeParams,
): Promise<Statement['rows']> {
  const standing = async (on: Partial<ScopeParams>) => {
    const asked = await resolveFigure(ctx, viewer, { ...scope, ...on });
    return ratiosOf(standingOf(entity.chart, await balancesByAccount(ctx, asked)));
  };
  const [booked, adjusted] = [await standing({}), await standing({ basis: 'with-proposed', set: [TRIED] })];
  return adjusted.flatMap(({ key, label, millionths }, i) => {
    const [was, now] = [booked[i]?.millionths ?? null, millionths].map((share) =>
      valueText({ is: 'share', millionths: share }, digits),
    );
    if (now === was || now === null || now === undefined) return [];
    return [{ key, label, booked: was ?? null, proposed: was ? change(now, was) : null, adjusted: now }];
  });
}

/** A statement as booked, and with what is tried; null where it cannot be asked at once, such as without a rate. */
async function asBoth(ctx: Context, viewer: Viewer, code: string, scope: Omit<StatementParams, 'basis' | 'set'>) {
  try {
    const booked = await readStatement(ctx, viewer, code, scope);
    const adjusted = await readStatement(ctx, viewer, code, { ...scope, basis: 'with-proposed', set: [TRIED] });
    return { booked, adjusted };
  } catch (error) {
    if (error instanceof ProblemError) return null;
    throw error;
  }
}

/** The statements of a company, its shares, its budgets, its cash, what is touched of funds and tax; then the group. */
async function statementsAsked(
  ctx: Context,
  viewer: Viewer,
  { entity, names }: BooksProposedIn,
  lines: readonly ProposedLine[],
): Promise<AskedStatement[]> {
  const outlines = [...(await outlinesOf(ctx, entity))];
  const { dimensions, entities } = names.catalogue;
  const positions = [...dimensions.keys()].filter(
    (dim) => hasPosition(dim) && lines.some((l) => l.dims[dim] !== undefined),
  );
  const versions = [...new Set((await budgetsOf(ctx.read, entity.id)).map((b) => b.version))];
  const results = outlines.filter(([, { outline }]) => outline.kind === 'income').map(([code]) => code);
  const seen = [...entities.values()].filter((e) => maySee(viewer, e.code));
  return [
    ...outlines.flatMap(([code, { outline }]) => (outline.kind === 'cashflow' ? [] : [{ code }])),
    ...results.map((code) => ({ code, column: 'share', says: ', shares, %' })),
    ...results.flatMap((code) =>
      versions.map((v) => ({ code, column: `variance:${v}`, says: ` beside budget ${v}, variance` })),
    ),
    ...positions.map((dim) => ({ code: 'position', by: `dim:${dim}` })),
    ...((await hasTaxCodes(ctx.read, entity.id)) ? [{ code: 'tax' }] : []),
    { code: 'cashflow' },
    ...(seen.length > 1
      ? (['income', 'balance'] as const).map((code) => ({ code, group: true as const, says: ' of the group' }))
      : []),
  ];
}

/** The column that tells where a statement stands: its window, or of a position what is left. */
const columnOf = (columns: readonly { key: string }[]): string =>
  (columns.find((c) => c.key === 'window') ?? columns.find((c) => c.key === 'current') ?? columns.at(-1))?.key ?? '';
