import type { ChartRow } from '@/contracts/answers/charts';
import { notFound, wrong } from '@/contracts/problem';
import type { ScopeParams } from '@/contracts/scope';
import { isTemporary, languagesOf } from '@/core/ledger';
import { formatAmount } from '@/core/money';
import { similarNames } from '@/core/similarNames';
import { inTreeOrder } from '@/core/tree';
import { touchCatalogue } from '@/store/catalogue';
import { renameAccount, statusChanges } from '@/store/charts';
import { type Context, known } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { resolveFigure } from '../asking/resolveFigure';
import { require, requireBooks, type Viewer } from '../asking/viewer';
import { balancesByAccount, sumOf } from '../balances/accountBalances';
import { checkedName } from './checkedName';
import { seenAccounts } from './seenChart';

/** The chart of one entity, in the order of its tree, with every attribute and the balance of the scope. */
export async function readAccounts(ctx: Context, viewer: Viewer, scope: ScopeParams) {
  const asked = await resolveFigure(ctx, viewer, scope);
  const [entity] = asked.entities;
  if (!entity || asked.entities.length !== 1) throw wrong('entity', 'a chart belongs to one entity; name one');
  const [chart, balances, changes] = await Promise.all([
    seenAccounts(ctx, viewer, entity),
    balancesByAccount(ctx, asked),
    statusChanges(ctx.read, [entity.id]),
  ]);
  const similar = alikeOf(chart.filter((a) => a.posting));
  const languages = languagesOf(chart);
  const rows = inTreeOrder(chart, (a) => a.posting).map(({ row: a, depth, beneath }): ChartRow => {
    const balance = sumOf(
      balances,
      beneath.map((b) => b.code),
    );
    return {
      account: a.code,
      name: a.name,
      names: a.names,
      type: a.type,
      statement: isTemporary(a.type) ? 'income statement' : 'balance sheet',
      depth,
      parent: a.parent,
      posting: a.posting,
      status: a.status,
      statusHistory: changes
        .filter((c) => c.code === a.code)
        .map(({ load, was, status, at }) => ({ load, was, status, at: at.toISOString() })),
      normal: a.normal,
      flow: a.flow,
      groups: a.groups,
      classification: a.classification,
      currency: a.currency,
      createdAt: a.created_at,
      createdBy: a.created_by,
      codes: a.codes,
      dims: a.dim_rules,
      similar: similar.get(a.code) ?? [],
      missing: languages.filter((l) => !a.names[l]),
      opening: formatAmount(balance.opening, asked.digits),
      movement: formatAmount(balance.movement, asked.digits),
      closing: formatAmount(balance.closing, asked.digits),
      count: balance.count,
    };
  });
  return {
    entity: entity.code,
    currency: entity.currency,
    sentence: asked.sentence,
    parts: asked.parts,
    address: asked.address,
    languages,
    rows,
  };
}

/** Accounts with names that are hardly told apart, by the code of each of them. */
function alikeOf(accounts: Parameters<typeof similarNames>[0]): Map<string, string[]> {
  const groups = similarNames(accounts);
  return new Map(groups.flatMap((group) => group.map((code) => [code, group.filter((c) => c !== code)])));
}

/** Mends an account's name, or fills it in for a language. Codes never change. */
export async function nameAccount(
  ctx: Context,
  viewer: Viewer,
  code: string,
  wanted: { entity: string; language: string | null; name: string | null },
): Promise<void> {
  require(viewer, 'preparer', 'mend names');
  const { catalogue } = await known(ctx.write);
  requireBooks(viewer, wanted.entity, 'mend names');
  const account = catalogue.entities.get(wanted.entity)?.accounts.get(code);
  if (!account) throw notFound(`Account ${code} of ${wanted.entity}`);
  const name = checkedName(wanted);
  const before = wanted.language === null ? account.name : (account.names[wanted.language] ?? null);
  await onRecord(ctx, viewer, async (trx, record) => {
    await renameAccount(trx, account.id, wanted.language, name);
    await record('named an account', `account ${wanted.entity}/${code}`, {
      language: wanted.language,
      from: before,
      to: name,
    });
    await touchCatalogue(trx);
  });
}
