import { notFound, wrong } from '@/contracts/problem';
import type { ScopeParams } from '@/contracts/scope';
import { exponentOf, formatAmount } from '@/core/money';
import { deleteHolding, type HoldingRow, holdingsOf, upsertHoldings } from '@/store/deliveries';
import { type Context, known } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { resolveFigure } from '../asking/resolveFigure';
import { grantedAccounts, maySee, require, type Viewer } from '../asking/viewer';
import { readTrialBalance } from '../sheets/readTrialBalance';
import { holdingOf } from './holdingOf';

/**
 * The register of bank accounts and cash boxes, each with the balance of its ledger account. Accounts outside the grant
 * are left out; who sees a part of an account is told that its number and balance are withheld.
 */
export async function readHoldings(ctx: Context, viewer: Viewer, scope: ScopeParams) {
  const asked = await resolveFigure(ctx, viewer, scope);
  const ofParts = Object.keys(viewer.members).length > 0;
  const rows = [];
  for (const entity of asked.entities) {
    const balances = await readTrialBalance(ctx, viewer, {
      ...scope,
      entity: [entity.code],
      zero: 'show',
      tree: 'no',
      yearToDate: 'no',
      retained: 'one',
    });
    const closing = new Map(balances.rows.map((r) => [r.account, r.closing]));
    const granted = grantedAccounts(viewer, entity.chart);
    for (const h of await holdingsOf(ctx.read, [entity.id])) {
      if (granted && !granted.has(h.account)) continue;
      rows.push({
        entity: entity.code,
        number: h.number,
        name: h.name,
        kind: h.kind,
        takes: h.takes,
        currency: h.currency,
        account: h.account,
        accountName: entity.accounts.get(h.account)?.name ?? '',
        bankAccount: ofParts ? null : h.bank_account,
        balance: ofParts ? null : (closing.get(h.account) ?? formatAmount(0, exponentOf(entity.currency))),
        balanceCurrency: entity.currency,
        withheld: ofParts
          ? 'The number and the balance are those of a whole account, and you see a part of the books'
          : null,
      });
    }
  }
  return { rows };
}

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
  const entity = maySee(viewer, wanted.entity) ? catalogue.entities.get(wanted.entity) : undefined;
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
  const entity = maySee(viewer, wanted.entity) ? catalogue.entities.get(wanted.entity) : undefined;
  await onRecord(ctx, viewer, async (trx, record) => {
    const gone = entity ? await deleteHolding(trx, entity.id, wanted.number) : 0;
    if (gone === 0) throw notFound(`Holding ${wanted.number} of ${wanted.entity}`);
    await record('took a holding out', `holding ${wanted.entity}/${wanted.number}`);
  });
}
