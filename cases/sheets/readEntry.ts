import { notFound, wrong } from '@/contracts/problem';
import { calendar, periodText } from '@/core/calendar';
import { formatAmount, sum } from '@/core/money';
import { otherSide } from '@/core/otherSide';
import { periodName } from '@/core/sentence';
import { NEVER } from '@/store/db';
import { documentsNumbered } from '@/store/documents';
import { type EntryHead, findEntry } from '@/store/entries';
import { linesOfEntries } from '@/store/lines';
import type { Context } from '../asking/context';
import { known } from '../asking/context';
import { ResolvedFigure } from '../asking/resolvedFigure';
import { maySee, seesLine, seesWhole, type Viewer } from '../asking/viewer';
import { originsBy } from '../charts/entryOrigins';
import { inSource } from '../charts/sourceLinks';
import { entryKey, shownLine } from './readLines';

/** By id, or by the number that the entry bears in its entity, where only one that the viewer may see bears it. */
async function headOf(
  ctx: Context,
  viewer: Viewer,
  id: string,
  entity: string | undefined,
  asOf: number,
): Promise<EntryHead | null> {
  const key = /^e(\d{1,9})$/.exec(id);
  const byId = key ? await findEntry(ctx.read, { id: Number(key[1]) }) : null;
  if (byId) return byId;
  const { catalogue } = await known(ctx.read);
  const codes = [...catalogue.entities.keys()].filter(
    (code) => maySee(viewer, code) && (entity === undefined || code === entity),
  );
  const found = await Promise.all(codes.map((code) => findEntry(ctx.read, { entity: code, number: id, asOf })));
  const there = found.filter((head) => head !== null);
  if (there.length > 1) throw wrong('entity', `several companies have an entry ${id}; add entity=${there[0]?.entity}`);
  return there[0] ?? null;
}

/** A journal entry with all its lines, both sides, and whether it balances. */
export async function readEntry(ctx: Context, viewer: Viewer, id: string, params: { entity?: string; load?: number }) {
  const names = await known(ctx.read);
  const head = await headOf(ctx, viewer, id, params.entity, params.load ?? names.newest);
  if (!head || !maySee(viewer, head.entity)) throw notFound(`Entry ${id}`);
  const entity = names.catalogue.entities.get(head.entity);
  if (!entity) throw notFound(`Entry ${id}`);
  const cal = calendar(entity.calendar);
  const asked = ResolvedFigure.ofWholeBooks(viewer, entity, names, params.load ?? null);
  const lines = await linesOfEntries(ctx.read, asked.unweighed, [head.id], params.load ?? null);
  const whole = seesWhole(viewer);
  const shown = whole
    ? lines
    : lines.filter((line) => seesLine(viewer, line, { chart: entity.chart, trees: names.catalogue.trees }));
  const first = shown[0];
  if (!first) throw notFound(`Entry ${id}`);
  const total = sum(lines.map((l) => l.amount));
  const debit = sum(shown.filter((l) => l.side === 'debit').map((l) => l.amount));
  const credit = -sum(shown.filter((l) => l.side === 'credit').map((l) => l.amount));
  const numbers = [...new Set(shown.flatMap((l) => (l.document === null ? [] : [l.document])))];
  const held = new Set((whole ? await documentsNumbered(ctx.read, [entity.id], numbers) : []).map((d) => d.number));
  return {
    id: entryKey(head.id),
    entity: entity.code,
    entityName: entity.name,
    /** Its address in the ledger that it came from. */
    inSource: await inSource(ctx, { entity: entity.code, number: head.number, date: first.postingDate }),
    number: head.number,
    /** Where it comes from, as its number tells, and where its detail is. */
    origin: (await originsBy(ctx))(head.number),
    description: first.entryDescription,
    journal: first.journal,
    date: first.postingDate,
    period: periodText(first.period),
    periodName: periodName(cal.period(first.period)),
    status: first.status,
    postedBy: first.postedBy,
    enteredAt: first.enteredAt,
    approvedBy: first.approvedBy,
    reversalOf: first.reversalOf,
    source: first.source,
    currency: entity.currency,
    load: head.load,
    replacedBy: head.replaced_by === NEVER ? null : head.replaced_by,
    lines: shown.map((line) => shownLine(line, asked, null, whole ? otherSide(lines, new Set([line.id])) : [])),
    /** Lines that lie outside what the viewer may see. */
    outside: lines.length - shown.length,
    totals: {
      count: shown.length,
      debit: formatAmount(debit, asked.digits),
      credit: formatAmount(credit, asked.digits),
    },
    // Of a part of an entry nothing says that its sides are equal.
    tie: shown.length < lines.length ? null : { ok: total === 0, offBy: formatAmount(total, asked.digits) },
    documents: numbers.map((number) => ({
      number,
      /** Whether it was loaded and the viewer may open it. */
      opens: held.has(number),
      type: shown.find((l) => l.document === number)?.extra?.document_type ?? null,
      date: shown.find((l) => l.document === number)?.extra?.document_date ?? null,
    })),
  };
}
