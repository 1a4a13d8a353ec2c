import { notFound } from '@/contracts/problem';
import { isPromising, storyOf } from '@/core/chain';
import { add, exponentOf, formatAmount, type Minor } from '@/core/money';
import { exactly } from '@/core/values';
import { documentRegister, type RegisterRow, settledByOthers } from '@/store/documentRegister';
import { type Context, known } from '../asking/context';
import { resolveFigure } from '../asking/resolveFigure';
import { maySee, requireWhole, type Viewer } from '../asking/viewer';
import { figureTotal } from '../balances/accountBalances';
import { listParties } from '../charts/parties';
import { documentHead } from './documentHead';
import { shownRow } from './documentRegister';

/** More documents than these are not told as a story. */
const TOLD_MAX = 2_000;

/** A document of the party itself, as its story tells it. */
function ofParty(document: RegisterRow) {
  const { value: _value, promising: _promising, lines: _lines, ...row } = shownRow(document);
  return { ...document, row: { ...row, shared: false } };
}

/** A part of a document of several, as far as it is about one of them. */
function ofSeveral({ applied, ...other }: Awaited<ReturnType<typeof settledByOthers>>[number]) {
  const document = { ...other, amount: applied, account: null, due_date: null };
  const head = documentHead({ ...document, counterparty_code: null, counterparty_name: null });
  const nothing = formatAmount(0, exponentOf(other.currency));
  return { ...document, row: { ...head, open: nothing, state: 'its part of several', shared: true } };
}

/**
 * The documents of a customer or supplier in one company's books by day, orders and estimates too, with what was owed after
 * each, held against what the ledger says of it on the accounts that these documents are on (method.md §8).
 */
export async function partyStory(ctx: Context, viewer: Viewer, code: string, { entity: of }: { entity: string }) {
  requireWhole(viewer, 'Documents are');
  const { catalogue, newest } = await known(ctx.read);
  const entity = catalogue.entities.get(of);
  if (!entity || !maySee(viewer, of)) throw notFound(`Entity ${of}`);
  const party = (await listParties(ctx, viewer)).rows.find((p) => p.code === code);
  if (!party) throw notFound(`Party ${code}`);
  const asked = { entity: entity.id, asOf: newest, types: null, party: code, words: [], from: null, to: null };
  const { rows, count } = await documentRegister(ctx.read, { ...asked, unbooked: false, limit: TOLD_MAX, offset: 0 });
  const ids = [...new Set(rows.flatMap(({ account }) => account ?? []))];
  const accounts = ids.flatMap((id) => entity.accountOf.get(id) ?? []);
  const isDebt = (id: number | null): boolean => id !== null && entity.accountOf.get(id)?.type === 'liability';
  // What is owed to us and what we owe are not added up: the one is taken from the other.
  const owed: 'to us' | 'by us' =
    accounts.length > 0 && accounts.every((a) => a.type === 'liability') ? 'by us' : 'to us';
  // A payment of many invoices of several names nobody; what it settled of this one's is a part of its story.
  const others = await settledByOthers(ctx.read, {
    ...{ entity: entity.id, asOf: newest, party: code },
    numbers: rows.filter((r) => r.currency === entity.currency && !isPromising(r.type)).map(({ number }) => number),
  });
  const story = storyOf([...rows.map(ofParty), ...others.map(ofSeveral)], ({ currency, account }) =>
    // A document that is on no account, since nobody booked it, is owed as the others are.
    currency !== entity.currency ? 0 : account === null || isDebt(account) === (owed === 'by us') ? 1 : -1,
  );
  const digits = exponentOf(entity.currency);
  const text = (amount: Minor): string => formatAmount(amount, digits);
  const ledger = await owedBy(ctx, viewer, { entity: of, code, accounts: accounts.map((a) => a.code), owed });
  const balance = story.at(-1)?.balance ?? 0;
  const off = add(balance, -ledger);
  return {
    entity: of,
    load: newest,
    currency: entity.currency,
    party,
    owed,
    rows: story.map(({ document: { row }, counts, balance: after }) => ({ ...row, counts, balance: text(after) })),
    more: count > rows.length,
    balance: text(balance),
    accounts: accounts.map((a) => a.code).sort(),
    ledger: text(ledger),
    tie: { ok: off === 0, offBy: text(off) },
  };
}

/** What the ledger says of a party on some accounts, which way it is owed being positive. */
async function owedBy(
  ctx: Context,
  viewer: Viewer,
  { entity, code, accounts, owed }: { entity: string; code: string; accounts: string[]; owed: 'to us' | 'by us' },
): Promise<Minor> {
  if (accounts.length === 0) return 0;
  const asked = await resolveFigure(ctx, viewer, {
    ...{ entity: [entity], dims: {}, window: 'everything', counterparty: [exactly(code)] },
  });
  const take = accounts.map((account) => ({ is: 'code' as const, code: account }));
  const { closing } = await figureTotal(ctx, asked.narrowed({ accounts: { take, except: [] } }));
  return owed === 'by us' ? 0 - closing : closing;
}
