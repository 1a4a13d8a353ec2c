import type { ScopeParams } from '@/contracts/scope';
import { jumpsAmong, numberAt } from '@/core/entryNumbers';
import { exponentOf, formatAmount, sum } from '@/core/money';
import type { CatalogueEntity } from '@/store/catalogue';
import { byBooks } from '@/store/catalogue';
import { type EntryOrder, entryPage, gapsOf, linesWithin, seriesOf } from '@/store/journals';
import { linesOfEntries, type StoredLine } from '@/store/lines';
import type { Context } from '../asking/context';
import { headOf } from '../asking/present';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { resolveFigure } from '../asking/resolveFigure';
import { seesLine, seesWhole, type Viewer } from '../asking/viewer';
import { figureTotal } from '../balances/accountBalances';
import { type Origin, originsBy } from '../charts/entryOrigins';
import { entryKey } from '../sheets/readLines';

export interface JournalParams extends ScopeParams {
  order: EntryOrder;
  after: number;
  limit: number;
}

/**
 * The entries that a figure's lines are of, each in full with both its sides: as a book is read. Lines of them that lie
 * outside of the figure are told apart, those outside of the grant are counted.
 */
export async function readJournal(ctx: Context, viewer: Viewer, { order, after, limit, ...scope }: JournalParams) {
  const asked = await resolveFigure(ctx, viewer, scope);
  const { db, question } = await asked.ask(ctx, [{ by: 'entry' }]);
  const [{ entries, count }, total] = await Promise.all([
    entryPage(db, question, { order, after, limit }),
    asked.translates ? null : figureTotal(ctx, asked),
  ]);
  const [lines, within, originOf] = await Promise.all([
    linesOfEntries(ctx.read, question, entries, asked.asOf),
    linesWithin(db, question, entries),
    originsBy(ctx),
  ]);
  const byEntry = new Map<number, StoredLine[]>();
  for (const line of lines) byEntry.set(line.entryId, [...(byEntry.get(line.entryId) ?? []), line]);
  return {
    ...headOf(asked),
    count,
    lines: total?.count ?? null,
    debit: total ? formatAmount(total.debit, asked.digits) : null,
    credit: total ? formatAmount(total.credit, asked.digits) : null,
    entries: entries.flatMap((id) => shownEntry(asked, byEntry.get(id) ?? [], within, originOf)),
    next: after + limit < count ? after + limit : null,
  };
}

function shownEntry(
  asked: ResolvedFigure,
  lines: readonly StoredLine[],
  within: ReadonlySet<string>,
  originOf: (number: string) => Origin | null,
) {
  const { viewer, known } = asked;
  const entity = asked.entities.find((e) => e.code === lines[0]?.entity);
  if (!entity) return [];
  const seen = lines.filter((line) => seesLine(viewer, line, { chart: entity.chart, trees: known.catalogue.trees }));
  const [first] = seen;
  if (!first) return [];
  const digits = exponentOf(entity.currency);
  const text = (amount: number): string => formatAmount(amount, digits);
  const side = (of: 'debit' | 'credit'): number => sum(seen.filter((l) => l.side === of).map((l) => l.amount));
  const total = sum(lines.map((l) => l.amount));
  return [
    {
      ...{ id: entryKey(first.entryId), entity: entity.code, currency: entity.currency, number: first.entry },
      ...{ date: first.postingDate, description: first.entryDescription, journal: first.journal },
      ...{ type: first.extra?.document_type ?? null, postedBy: first.postedBy, enteredAt: first.enteredAt },
      ...{ load: first.load, status: first.status },
      origin: originOf(first.entry),
      documents: [...new Set(seen.flatMap((l) => (l.document === null ? [] : [l.document])))],
      counterparties: [...new Set(seen.flatMap((l) => l.counterpartyName ?? l.counterparty ?? []))],
      lines: seen.map((line) => ({
        ...{ id: line.id, line: line.line, account: line.account, accountName: nameOf(entity, line.account) },
        description: line.description,
        dims: Object.entries(line.members).map(
          ([dimension, code]) => known.catalogue.trees.get(dimension)?.get(code)?.name ?? code,
        ),
        debit: line.side === 'debit' ? text(line.amount) : text(0),
        credit: line.side === 'credit' ? text(0 - line.amount) : text(0),
        within: within.has(`${line.entryId}/${line.line}`),
      })),
      /** Lines outside what the viewer may see. */
      outside: lines.length - seen.length,
      debit: text(side('debit')),
      credit: text(0 - side('credit')),
      // Of a part of an entry nothing says that its sides are equal.
      tie: seen.length < lines.length ? null : { ok: total === 0, offBy: text(total) },
    },
  ];
}

const nameOf = (entity: CatalogueEntity, account: string): string => entity.accounts.get(account)?.name ?? account;

/** Series of a scope that are told, and gaps of each. */
const SERIES_MAX = 40;
const GAPS_MAX = 100;

/**
 * How the entries of a figure are numbered: each series with its first and last number, and numbers between them that no
 * entry of the company bears. Numbers are told only to who sees whole books.
 */
export async function readSeries(ctx: Context, viewer: Viewer, scope: ScopeParams) {
  const asked = await resolveFigure(ctx, viewer, scope);
  if (!seesWhole(viewer)) return { ...headOf(asked), series: null, more: false };
  const { db, question } = await asked.ask(ctx, [{ by: 'entry' }]);
  const all = await seriesOf(db, question, SERIES_MAX + 1);
  const entityOf = byBooks(asked.known.catalogue);
  const series = await Promise.all(
    all.slice(0, SERIES_MAX).map(async (row) => {
      const whole = row.last - row.first + 1 === row.count;
      const found = whole ? [] : await gapsOf(ctx.patient, row, asked.asOf, GAPS_MAX);
      const { gaps, jumps } = jumpsAmong(found, row.count);
      const named = ({ from, to }: { from: number; to: number }) => ({
        from: numberAt(row, from),
        to: numberAt(row, to),
      });
      return {
        entity: entityOf.get(row.books)?.code ?? '',
        first: numberAt(row, row.first),
        last: numberAt(row, row.last),
        count: row.count,
        missing: gaps.reduce((all, { from, to }) => all + to - from + 1, 0),
        gaps: gaps.map(named),
        jumps: jumps.map((jump) => named({ from: jump.from - 1, to: jump.to + 1 })),
        /** There are more gaps than are told. */
        more: found.length === GAPS_MAX,
      };
    }),
  );
  return { ...headOf(asked), series, more: all.length > SERIES_MAX };
}
