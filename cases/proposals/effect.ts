import type { z } from 'zod';
import type { draftEffectSchema } from '@/contracts/bodies/all';
import { notFound, wrong } from '@/contracts/problem';
import { type Ordinal, periodText, yearOf } from '@/core/calendar';
import { above } from '@/core/materiality';
import { change, formatAmount } from '@/core/money';
import { effectOf, onResult, type ProposedFault, type ProposedLine } from '@/core/proposedEntry';
import { periodName } from '@/core/sentence';
import { touchCatalogue } from '@/store/catalogue';
import { oneAfterTheOther } from '@/store/db';
import { newestOutlines } from '@/store/outlines';
import { openProposed, TRIED } from '@/store/proposed';
import { hasTaxCodes } from '@/store/taxes';
import { type Context, known } from '../asking/context';
import { seesWhole, type Viewer } from '../asking/viewer';
import { seenPiece } from '../evidence/seenEvidence';
import { outlinesOf, USUAL } from '../statements/outlines';
import { readStatement } from '../statements/readStatement';
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

/** Every statement of the company whose rows are changed, over the fiscal year to the period. */
async function statementsWith(
  ctx: Context,
  viewer: Viewer,
  { entity, calendar: cal }: BooksProposedIn,
  period: Ordinal,
  lines: readonly ProposedLine[],
): Promise<Statement[]> {
  const [first] = cal.periodsOf(yearOf(period));
  const own = (await newestOutlines(ctx.read, entity.id)).filter((o) => !o.removed).map((o) => o.code);
  const there = await outlinesOf(ctx, entity);
  // What cash did is found line by line, which takes too long to be shown while somebody types.
  const outlines = [...new Set([...USUAL, ...own])].filter((code) => there.has(code) && code !== 'cashflow');
  // Positions of the funds and projects that are touched.
  const positions = [...(await known(ctx.read)).catalogue.dimensions.keys()].filter(
    (dim) => /fund|project/i.test(dim) && lines.some((l) => l.dims[dim] !== undefined),
  );
  const asked: { code: string; by?: string }[] = [
    ...outlines.map((code) => ({ code })),
    ...positions.map((dim) => ({ code: 'position', by: `dim:${dim}` })),
    ...((await hasTaxCodes(ctx.read, entity.id)) ? [{ code: 'tax' }] : []),
  ];
  const scope = {
    ...{ entity: [entity.code], from: periodText(first?.ordinal ?? period), to: periodText(period), dims: {} },
  };
  const found: Statement[] = [];
  for (const { code, by } of asked) {
    const booked = await readStatement(ctx, viewer, code, { ...scope, by });
    const adjusted = await readStatement(ctx, viewer, code, { ...scope, by, basis: 'with-proposed', set: [TRIED] });
    const column = columnOf(adjusted.columns);
    const before = new Map(booked.rows.map((row) => [row.key, row.values[column] ?? null]));
    const rows = adjusted.rows.flatMap((row): Statement['rows'] => {
      const [now, was] = [row.values[column] ?? null, before.get(row.key) ?? null];
      if (now === was || now === null) return [];
      const nothing = now.replace(/[1-9]/g, '0').replace('-', '');
      return [{ key: row.key, label: row.label, booked: was, proposed: change(now, was ?? nothing), adjusted: now }];
    });
    if (rows.length > 0)
      found.push({
        code: by === undefined ? code : `${code} ${by}`,
        name: adjusted.name,
        window: periodName(cal.period(period)),
        rows,
      });
  }
  return found;
}

/** The column that tells where a statement stands: its window, or of a position what is left. */
const columnOf = (columns: readonly { key: string }[]): string =>
  (columns.find((c) => c.key === 'window') ?? columns.find((c) => c.key === 'current') ?? columns.at(-1))?.key ?? '';
