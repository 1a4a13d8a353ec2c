import { notFound, wrong } from '@/contracts/problem';
import type { ScopeParams } from '@/contracts/scope';
import { exponentOf, formatAmount } from '@/core/money';
import { deleteHolding, type HoldingRow, holdingsOf, upsertHoldings } from '@/store/deliveries';
import { type Context, known } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { resolveFigure } from '../asking/resolveFigure';
import { grantedAccounts, require, requireBooks, type Viewer } from '../asking/viewer';
import { balancesByAccount } from '../balances/accountBalances';
import { holdingOf } from './holdingOf';

/**
 * The register of bank accounts and cash boxes, each with the balance of its ledger account. Accounts outside the grant
 * are left out; who sees a part of an account is told that its number and balance are withheld.
 */
export async function readHoldings(ctx: Context, viewer: Viewer, scope: ScopeParams) {
  const asked = await resolveFigure(ctx, viewer, scope);
  const ofParts = Object.keys(viewer.members).length > 0;
  const registered = await holdingsOf(
    ctx.read,
    asked.entities.map((e) => e.id),
  );
  // Companies may have accounts of the same code: each is asked for itself.
  const closing = new Map(
    await Promise.all(
      (ofParts ? [] : asked.entities).map(async (e) => {
        const own = asked.narrowed({ entities: [e.code] }, e.currency);
        return [e.code, await balancesByAccount(ctx, own)] as const;
      }),
    ),
  );
  const rows = asked.entities.flatMap((entity) => {
    const granted = grantedAccounts(viewer, entity.chart);
    const digits = exponentOf(entity.currency);
    return registered
      .filter((h) => h.entity === entity.id && (granted === null || granted.has(h.account)))
      .map((h) => ({
        entity: entity.code,
        number: h.number,
        name: h.name,
        kind: h.kind,
        takes: h.takes,
        currency: h.currency,
        account: h.account,
        accountName: entity.accounts.get(h.account)?.name ?? '',
        bankAccount: ofParts ? null : h.bank_account,
        balance: ofParts ? null : formatAmount(closing.get(entity.code)?.get(h.account)?.closing ?? 0, digits),
        balanceCurrency: entity.currency,
        withheld: ofParts ? WITHHELD : null,
      }));
  });
  return { rows };
}

const WITHHELD = 'The number and the balance are those of a whole account, and you see a part of the books';

export interface NewHolding {
  entity: string;
  number: string;
  name: string;
  kind: string;
  takes: string;
  account: string;
  currency?: string | undefined;
  bankAccount?: string | undefined;
}

/** Adds a holding to the register or mends it. */
export async function keepHolding(ctx: Context, viewer: Viewer, wanted: NewHolding): Promise<void> {
  require(viewer, 'preparer', 'keep the register of holdings');
  const { catalogue } = await known(ctx.write);
  requireBooks(viewer, wanted.entity, 'keep the register of holdings');
  const entity = catalogue.entities.get(wanted.entity);
  if (!entity) throw notFound(`Entity ${wanted.entity}`);
  if (!entity.accounts.get(wanted.account)?.posting)
    throw wrong('account', `${wanted.entity} has no posting account “${wanted.account}”`);
  const fault = (column: string, message: string): never => {
    throw wrong(column, message);
  };
  const values = {
    kind: wanted.kind,
    takes: wanted.takes,
    currency: wanted.currency ?? '',
    bank_account: wanted.bankAccount ?? '',
  };
  const holding = holdingOf(values, entity.currency, fault) as Pick<
    HoldingRow,
    'kind' | 'takes' | 'currency' | 'bank_account'
  >;
  await onRecord(ctx, viewer, async (trx, record) => {
    await upsertHoldings(trx, [
      { entity: entity.id, number: wanted.number, name: wanted.name, account: wanted.account, ...holding },
    ]);
    await record('kept a holding', `holding ${wanted.entity}/${wanted.number}`, {
      name: wanted.name,
      account: wanted.account,
      kind: wanted.kind,
    });
  });
}

/** Takes a holding out of the register. */
export async function removeHolding(
  ctx: Context,
  viewer: Viewer,
  wanted: { entity: string; number: string },
): Promise<void> {
  require(viewer, 'preparer', 'keep the register of holdings');
  const { catalogue } = await known(ctx.write);
  requireBooks(viewer, wanted.entity, 'keep the register of holdings');
  const entity = catalogue.entities.get(wanted.entity);
  await onRecord(ctx, viewer, async (trx, record) => {
    const gone = entity ? await deleteHolding(trx, entity.id, wanted.number) : 0;
    if (gone === 0) throw notFound(`Holding ${wanted.number} of ${wanted.entity}`);
    await record('took a holding out', `holding ${wanted.entity}/${wanted.number}`);
  });
}
