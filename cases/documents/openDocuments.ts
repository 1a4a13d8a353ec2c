import { wrong } from '@/contracts/problem';
import type { ScopeParams } from '@/contracts/scope';
import { yearOf } from '@/core/calendar';
import { add, exponentOf, formatAmount, type Minor } from '@/core/money';
import { AGE_EDGES, ageBand, bandNames, daysPast, type OpenItem, openOf } from '@/core/openItems';
import { type ItemRow, itemsOn } from '@/store/documents';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { resolveFigure } from '../asking/resolveFigure';
import { requireWhole, type Viewer } from '../asking/viewer';
import { figureTotal } from '../balances/accountBalances';

/** More documents than this are narrowed first. */
const ITEMS_MAX = 50_000;

export interface OpenDocumentsParams extends ScopeParams {
  open: 'yes' | 'all';
  aged: 'due' | 'document';
  edges?: number[] | undefined;
}

/**
 * The documents of control accounts with what is open of each at the end of the window, by age, and whether they add up
 * to the ledger's balance (method.md §8, subsidiary ledger tie).
 */
export async function openDocuments(
  ctx: Context,
  viewer: Viewer,
  { open, aged, edges = [...AGE_EDGES], ...scope }: OpenDocumentsParams,
) {
  requireWhole(viewer, 'Documents are');
  const asked = await resolveFigure(ctx, viewer, scope);
  const [entity] = asked.entities;
  const [mine] = asked.books;
  if (!entity || !mine || asked.entities.length !== 1) throw wrong('entity', 'documents are of one company; name one');
  const { where, status } = asked.figure;
  const other = where.find((c) => c.on !== 'counterparty' || c.not || c.any.some((v) => v === null));
  if (other)
    throw wrong(
      other.on === 'dim' ? `dim.${other.dim}` : other.on,
      'documents are narrowed by account and counterparty only; take this clause away',
    );
  if (status !== 'posted') throw wrong('status', 'documents are held against posted lines; ask for posted');
  const at = lastDay(asked);
  const controls = asked.known.controls.get(entity.id) ?? [];
  const accounts = controls.filter((id) => mine.own === null || mine.own.includes(id));
  const [party] = where;
  const found = await itemsOn(ctx.read, {
    entity: entity.id,
    accounts,
    at,
    asOf: asked.asOf,
    limit: ITEMS_MAX + 1,
    counterparties: party?.on === 'counterparty' ? (party.any as string[]) : null,
  });
  if (found.length > ITEMS_MAX)
    throw wrong('accounts', `there are more than ${ITEMS_MAX} documents; name one account or a counterparty`);
  const items = found.map((row) => ({ row, item: itemOf(row), open: openOf(itemOf(row)) }));
  const own = items.filter(({ row }) => row.currency === entity.currency);
  const sum = own.reduce((all, { open: left }) => add(all, left), 0);
  const bands: Minor[] = bandNames(edges).map(() => 0);
  for (const { item, open: left } of own) {
    const band = ageBand(daysPast(item, at, aged), edges);
    bands[band] = add(bands[band] ?? 0, left);
  }
  const ledger = await figureTotal(ctx, asked);
  // Creditors are owed what is in credit: documents are written without a sign.
  const balance =
    accounts.length > 0 && accounts.every((id) => entity.accountOf.get(id)?.type !== 'asset')
      ? 0 - ledger.closing
      : ledger.closing;
  const text = (amount: Minor): string => formatAmount(amount, asked.digits);
  const shown = items.filter(({ open: left }) => open === 'all' || left !== 0);
  const off = add(sum, -balance);
  return {
    entity: entity.code,
    at,
    sentence: asked.sentence,
    parts: asked.parts,
    address: asked.address,
    currency: asked.currency,
    controls: controls.map((id) => ({
      account: entity.accountOf.get(id)?.code ?? '',
      name: entity.accountOf.get(id)?.name ?? '',
    })),
    rows: shown.map(({ row, item, open: left }) => ({
      number: row.number,
      type: row.type,
      date: row.date,
      dueDate: row.due_date,
      currency: row.currency,
      counterparty: row.counterparty_code,
      counterpartyName: row.counterparty_name,
      description: row.description,
      account: entity.accountOf.get(row.account)?.code ?? '',
      amount: formatAmount(row.amount, exponentOf(row.currency)),
      open: formatAmount(left, exponentOf(row.currency)),
      band: ageBand(daysPast(item, at, aged), edges),
      daysPast: Math.max(0, daysPast(item, at, aged)),
    })),
    bands: bandNames(edges).map((name, i) => ({ name, open: text(bands[i] ?? 0) })),
    total: { documents: shown.length, open: text(sum), inOtherCurrencies: items.length - own.length },
    ledger: text(balance),
    tie: { ok: off === 0, offBy: text(off) },
  };
}

const itemOf = (row: ItemRow): OpenItem => ({
  type: row.type,
  date: row.date,
  due: row.due_date,
  amount: row.amount,
  settled: row.settled,
  settledHere: row.settled_here,
  settles: row.settles,
});

/** The last day of the window: documents are open or not at a day. */
function lastDay({ figure, books }: ResolvedFigure): string {
  const { window } = figure;
  if (window.by === 'date') return window.to;
  const period = books[0]?.calendar.periodsOf(yearOf(window.to)).find((p) => p.ordinal === window.to);
  if (!period) throw wrong('to', 'the calendar has no such period');
  return period.to;
}
