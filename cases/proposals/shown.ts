import { percentOf } from '@/core/expectation';
import { add, formatAmount, type Minor, sum } from '@/core/money';
import { countsIn, type Effect, effectOf, type ProposedLine } from '@/core/proposedEntry';
import type { ProposedRow } from '@/store/evidence';
import type { Context } from '../asking/context';
import { seesLine, seesWhole, type Viewer } from '../asking/viewer';
import { shownAbout } from '../evidence/about';
import { mayApprove } from './approval';
import { type BooksProposedIn, debitOf, entriesOf, proposedIn, proposedNumber, shownLines } from './lines';

/** A proposed entry as its reader may see it: of its lines those within the grant. */
export async function shownProposed(ctx: Context, viewer: Viewer, row: ProposedRow) {
  const books = await proposedIn(ctx, viewer, row.entity);
  const lines = seenLines(viewer, books, row.lines);
  const number = proposedNumber(row.id);
  return {
    ...shownAbout(row, viewer),
    ...{ number, entity: row.entity, entityName: books.entity.name, currency: books.entity.currency },
    ...{ kind: row.type, set: row.set_name, title: row.title, reason: row.reason },
    ...{ state: row.state, stateBy: row.state_by_name, stateAt: row.state_at.toISOString() },
    stateReason: row.state_reason,
    date: row.lines[0]?.date ?? '',
    lines: shownLines(books, lines),
    outside: row.lines.length - lines.length,
    debit: formatAmount(debitOf(lines), books.digits),
    credit: formatAmount(debitOf(lines.map((l) => ({ ...l, amount: -l.amount }))), books.digits),
    effect: shownEffect(books, lines, row.tax_percent),
    taxPercent: row.tax_percent,
    // What they lead to says itself who may see it.
    links: seesWhole(viewer) ? row.links : [],
    entries: entriesOf(number, row.lines).map((e) => e.number),
    counts: countsIn(row.state),
    exported: row.exported_at === null ? null : { at: row.exported_at.toISOString(), digest: row.exported_as ?? '' },
    booked: row.booked,
    mayApprove: mayApprove(viewer, row),
  };
}

/** Lines within the viewer's grant. */
export const seenLines = (viewer: Viewer, books: BooksProposedIn, lines: readonly ProposedLine[]): ProposedLine[] => {
  const within = { chart: books.entity.chart, trees: books.names.catalogue.trees };
  return lines.filter((l) => seesLine(viewer, { account: l.account, members: l.dims }, within));
};

/** How many lines lie outside of the viewer's grant. */
export const linesOutside = (viewer: Viewer, books: BooksProposedIn, lines: readonly ProposedLine[]): number =>
  lines.length - seenLines(viewer, books, lines).length;

export const typeIn =
  ({ entity }: BooksProposedIn) =>
  (account: string) =>
    entity.accounts.get(account)?.type ?? ('asset' as const);

/** What correcting does to the result, a profit positive. */
export const resultOf = ({ income, expense }: Effect): Minor => -add(income, expense) || 0;

export const shownEffect = (books: BooksProposedIn, lines: readonly ProposedLine[], taxPercent: string) =>
  printedEffect(effectOf(lines, typeIn(books)), taxPercent, books.digits);

/** @param tax percent of the result; empty: none is said */
export function printedEffect(effect: Effect, tax: string, digits: number) {
  const text = (amount: Minor): string => formatAmount(amount, digits);
  const result = resultOf(effect);
  return {
    assets: text(effect.assets),
    liabilities: text(effect.liabilities),
    equity: text(effect.equity),
    income: text(effect.income),
    expense: text(effect.expense),
    result: text(result),
    tax: tax === '' ? null : text(percentOf(result, tax)),
  };
}

/** Effects together. */
export const addEffects = (effects: readonly Effect[]): Effect => ({
  assets: sum(effects.map((e) => e.assets)),
  liabilities: sum(effects.map((e) => e.liabilities)),
  equity: sum(effects.map((e) => e.equity)),
  income: sum(effects.map((e) => e.income)),
  expense: sum(effects.map((e) => e.expense)),
});
