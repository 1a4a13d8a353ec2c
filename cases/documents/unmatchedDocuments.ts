import type { ScopeParams } from '@/contracts/scope';
import { add, exponentOf, formatAmount, type Minor } from '@/core/money';
import { withoutAlike } from '@/core/openItems';
import { parseSelection } from '@/core/selection';
import type { CatalogueAccount } from '@/store/catalogue';
import { openOn } from '@/store/documents';
import { linesFrom } from '@/store/figureSql';
import { looseLinks, type OnAccount, unmatchedOn } from '@/store/matchedDocuments';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import type { Viewer } from '../asking/viewer';
import { figureTotal } from '../balances/accountBalances';
import { controlsAsked } from './controlsAsked';

/** So many differences of an account are listed, the largest; the others are counted. */
const LISTED = 2_000;

/**
 * What makes the difference between documents and control accounts, item by item: documents that no line books, lines that
 * no document is behind, both with other amounts, and what was applied across accounts (method.md §8, subsidiary ledger tie).
 */
export async function unmatchedDocuments(ctx: Context, viewer: Viewer, scope: ScopeParams) {
  const { asked, entity, accounts, at, counterparties } = await controlsAsked(ctx, viewer, scope);
  const all = [];
  for (const id of accounts) {
    const account = entity.accountOf.get(id) as CatalogueAccount;
    const on = {
      ...{ entity: entity.id, account: id, currency: entity.currency, at, asOf: asked.asOf },
      counterparties,
    };
    all.push(await unmatchedOf(ctx, asked, account, on));
  }
  return {
    ...{ entity: entity.code, at, sentence: asked.sentence, parts: asked.parts, address: asked.address },
    ...{ currency: asked.currency, load: asked.asOf, accounts: all },
  };
}

async function unmatchedOf(ctx: Context, asked: ResolvedFigure, account: CatalogueAccount, on: OnAccount) {
  const digits = exponentOf(on.currency);
  const credit = account.type !== 'asset';
  const owed = (amount: Minor): Minor => (credit ? 0 - amount : amount);
  const text = (amount: Minor): string => formatAmount(amount, digits);
  const of = asked.narrowed({ accounts: parseSelection(account.code) });
  const { question } = await sinceTheFirst(of).ask(ctx, [{ by: 'document' }]);
  // Documents are in the database alone, and so are the lines that they are held against.
  const { columns: _, ...inDatabase } = question;
  const [{ rows: found, totals }, loose, open, { closing }] = await Promise.all([
    unmatchedOn(ctx.patient, linesFrom(inDatabase, { openings: true }), on, { credit, limit: LISTED }),
    looseLinks(ctx.patient, on),
    openOn(ctx.patient, { ...on, accounts: [on.account] }, on.currency),
    figureTotal(ctx, of),
  ]);
  const whole = totals.unmatched <= LISTED;
  const { rows, alike } = whole ? withoutAlike(found) : { rows: found, alike: 0 };
  const moved = loose.reduce((sum, { change }) => add(sum, change), 0);
  const difference = add(owed(totals.difference), 0 - moved);
  const ledger = owed(closing);
  // Told by the summaries and by what is open: not by what was found line by line.
  const offBy = add(difference, 0 - add(ledger, 0 - open));
  return {
    account: account.code,
    name: account.name,
    owed: credit ? ('by us' as const) : ('to us' as const),
    compared: totals.compared,
    /** Differences in all, of which those listed may be the largest. */
    unmatched: totals.unmatched - 2 * alike + loose.length,
    /** Pairs of a document and lines without each other's number, of the same day and amount. */
    alike,
    ledger: text(ledger),
    documents: text(open),
    difference: text(difference),
    /** Whether all differences come to what ledger and documents are apart. */
    tie: { ok: offBy === 0, offBy: text(offBy) },
    rows: [
      ...rows.map((row) => ({
        kind: kindOf(row, on.currency),
        ...{ number: row.number, entry: row.entry, other: null, type: row.type, date: row.date },
        ...{ counterparty: row.counterparty_code, counterpartyName: row.counterparty_name },
        description: row.description,
        documents: row.document === null ? null : text(owed(row.document)),
        ledger: row.booked === null ? null : text(owed(row.booked)),
        difference: text(owed(offOf(row))),
        lines: row.lines,
      })),
      ...loose.slice(0, LISTED).map((link) => ({
        kind: 'applied' as const,
        ...{ number: link.source, entry: null, other: link.target, type: null, date: link.date },
        ...{ counterparty: null, counterpartyName: null, description: '' },
        documents: text(link.change),
        ledger: null,
        difference: text(0 - link.change),
        lines: 0,
      })),
    ],
  };
}

const offOf = ({ booked, document }: { booked: Minor | null; document: Minor | null }): Minor =>
  add(booked ?? 0, 0 - (document ?? 0));

function kindOf(
  row: { type: string | null; currency: string | null; booked: Minor | null; number: string | null },
  currency: string,
): 'no-document' | 'no-lines' | 'other-currency' | 'differs' {
  if (row.type === null) return 'no-document';
  if (row.currency !== currency) return 'other-currency';
  return row.booked === null ? 'no-lines' : 'differs';
}

/** The same account with all lines up to the end of the window. */
function sinceTheFirst(asked: ResolvedFigure): ResolvedFigure {
  const { window } = asked.figure;
  const reaches = asked.entities.flatMap((e) => asked.known.extents.get(e.code) ?? []);
  const [first] = reaches;
  if (!first) return asked;
  return asked.narrowed({
    window:
      window.by === 'date'
        ? { ...window, from: first.firstDay < window.from ? first.firstDay : window.from }
        : { ...window, from: Math.min(first.firstPeriod, window.from) },
  });
}
