import { wrong } from '@/contracts/problem';
import type { ScopeParams } from '@/contracts/scope';
import { add, exponentOf, formatAmount, furthestOff, type Minor } from '@/core/money';
import { ageBand, bandNames, daysPast, type OpenItem, openOf } from '@/core/openItems';
import { parseSelection } from '@/core/selection';
import type { CatalogueAccount } from '@/store/catalogue';
import { type ItemRow, itemsOn } from '@/store/documents';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import type { Viewer } from '../asking/viewer';
import { figureTotal } from '../balances/accountBalances';
import { splitOfSums } from '../balances/splitParts';
import { readAgeBands } from './ageBands';
import { controlsAsked } from './controlsAsked';
import { documentHead } from './documentHead';

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
  { open, aged, edges: wanted, ...scope }: OpenDocumentsParams,
) {
  const { edges } = wanted ? { edges: wanted } : await readAgeBands(ctx);
  const { asked, entity, controls, accounts, at, counterparties } = await controlsAsked(ctx, viewer, scope);
  const found = await itemsOn(ctx.read, {
    entity: entity.id,
    accounts,
    at,
    asOf: asked.asOf,
    limit: ITEMS_MAX + 1,
    counterparties,
  });
  if (found.length > ITEMS_MAX)
    throw wrong('accounts', `there are more than ${ITEMS_MAX} documents; name one account or a counterparty`);
  const proposed = await proposedOn(ctx, asked, accounts);
  const items = found.map((row) => {
    const own = row.currency === entity.currency ? (proposed.get(proposedKey(row)) ?? 0) : 0;
    return { row, item: itemOf(row), open: add(openOf(itemOf(row)), own), proposed: own };
  });
  const own = items.filter(({ row }) => row.currency === entity.currency);
  const aging = await Promise.all(
    accounts.map((id) =>
      ageOf(ctx, asked, entity.accountOf.get(id) as CatalogueAccount, {
        items: own.filter(({ row }) => row.account === id),
        bandOf: (item) => ageBand(daysPast(item, at, aged), edges),
        bands: edges.length + 2,
      }),
    ),
  );
  // What is owed to us and what we owe are not added up: the one is held against the other.
  const both = new Set(aging.map((a) => a.owed)).size > 1;
  const signed = (amount: Minor, { owed }: Aged): Minor => (both && owed === 'by us' ? 0 - amount : amount);
  const together = (of: (a: Aged) => Minor): Minor => aging.reduce((all, a) => add(all, signed(of(a), a)), 0);
  const sum = together((a) => a.open);
  const balance = together((a) => a.ledger);
  const text = (amount: Minor): string => formatAmount(amount, asked.digits);
  const shown = items.filter(({ open: left }) => open === 'all' || left !== 0);
  const off = furthestOff(aging.map((a) => add(a.open, -a.ledger)));
  return {
    entity: entity.code,
    at,
    sentence: asked.sentence,
    parts: asked.parts,
    address: asked.address,
    currency: asked.currency,
    edges,
    controls: controls.map((id) => ({
      account: entity.accountOf.get(id)?.code ?? '',
      name: entity.accountOf.get(id)?.name ?? '',
    })),
    rows: shown.map(({ row, item, open: left, proposed: own }) => ({
      ...documentHead(row),
      account: entity.accountOf.get(row.account)?.code ?? '',
      open: formatAmount(left, exponentOf(row.currency)),
      band: ageBand(daysPast(item, at, aged), edges),
      daysPast: Math.max(0, daysPast(item, at, aged)),
      ...(own === 0 ? {} : { proposed: text(own) }),
    })),
    bands: bandNames(edges).map((name, i) => ({ name, open: text(together((a) => a.bands[i] ?? 0)) })),
    accounts: aging.map((a) => {
      const difference = add(a.open, -a.ledger);
      return {
        account: a.account,
        name: a.name,
        owed: a.owed,
        bands: a.bands.map(text),
        open: text(a.open),
        ledger: text(a.ledger),
        tie: { ok: difference === 0, offBy: text(difference) },
      };
    }),
    parties: aging.flatMap((a) => partiesOf(a, asked)),
    total: { documents: shown.length, open: text(sum), inOtherCurrencies: items.length - own.length },
    ledger: text(balance),
    tie: { ok: off === 0, offBy: text(off) },
  };
}

const proposedKey = ({ account, number }: { account: number; number: string }): string => `${account}/${number}`;

/**
 * What proposed entries add to what is open of documents, where they count: a payment that was applied to another
 * document is put right by lines on the control account that name the one and the other.
 */
async function proposedOn(
  ctx: Context,
  asked: ResolvedFigure,
  accounts: readonly number[],
): Promise<Map<string, Minor>> {
  const found = new Map<string, Minor>();
  const [entity] = asked.entities;
  if (asked.figure.basis === undefined || !entity) return found;
  const codes = accounts.flatMap((id) => entity.accountOf.get(id)?.code ?? []);
  const own = asked.narrowed({ basis: 'proposed', accounts: parseSelection(codes.join(', ')) });
  const sheet = await splitOfSums(ctx, own, [{ by: 'account' }], { by: 'document' });
  for (const row of sheet.rows) {
    const account = entity.accounts.get(row.member);
    if (!account) continue;
    for (const [i, number] of sheet.columns.entries()) {
      const closing = row.cells[i]?.closing ?? 0;
      if (closing !== 0)
        found.set(proposedKey({ account: account.id, number }), account.type === 'asset' ? closing : 0 - closing);
    }
  }
  return found;
}

interface Aged {
  /** The same of each party, by code; an empty code where a document names none. */
  parties: Map<string, { name: string | null; bands: Minor[] }>;
  account: string;
  name: string;
  owed: 'to us' | 'by us';
  bands: Minor[];
  open: Minor;
  ledger: Minor;
}

/** The open documents of one control account by age, beside its balance. What is owed is positive: documents are written without a sign. */
async function ageOf(
  ctx: Context,
  asked: ResolvedFigure,
  { code, name, type }: CatalogueAccount,
  documents: { items: { row: ItemRow; item: OpenItem; open: Minor }[]; bandOf(item: OpenItem): number; bands: number },
): Promise<Aged> {
  const none = (): Minor[] => Array.from({ length: documents.bands }, () => 0);
  const bands = none();
  const parties: Aged['parties'] = new Map();
  for (const { row, item, open } of documents.items) {
    const band = documents.bandOf(item);
    bands[band] = add(bands[band] ?? 0, open);
    const code = row.counterparty_code ?? '';
    const party = parties.get(code) ?? { name: row.counterparty_name, bands: none() };
    parties.set(code, party);
    party.bands[band] = add(party.bands[band] ?? 0, open);
  }
  const owed = type === 'asset' ? 'to us' : 'by us';
  const { closing } = await figureTotal(ctx, asked.narrowed({ accounts: parseSelection(code) }));
  return {
    parties,
    account: code,
    name,
    owed,
    bands,
    open: bands.reduce(add, 0),
    ledger: owed === 'by us' ? 0 - closing : closing,
  };
}

/** What is open of each party on a control account by age, most of it first; parties of whom nothing is open are left out. */
const partiesOf = ({ account, parties }: Aged, { digits }: ResolvedFigure) =>
  [...parties]
    .map(([code, { name, bands }]) => ({ code, name, bands, open: bands.reduce(add, 0) }))
    .filter(({ bands }) => bands.some((open) => open !== 0))
    .sort((a, b) => b.open - a.open || (a.code < b.code ? -1 : 1))
    .map(({ code, name, bands, open }) => ({
      account,
      code,
      name,
      bands: bands.map((amount) => formatAmount(amount, digits)),
      open: formatAmount(open, digits),
    }));

const itemOf = (row: ItemRow): OpenItem => ({
  type: row.type,
  date: row.date,
  due: row.due_date,
  amount: row.amount,
  settled: row.settled,
  settledHere: row.settled_here,
  settles: row.settles,
});
