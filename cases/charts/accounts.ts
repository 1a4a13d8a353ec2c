import type { ChartRow } from '@/contracts/answers/charts';
import { notFound, wrong } from '@/contracts/problem';
import type { ScopeParams } from '@/contracts/scope';
import { isTemporary } from '@/core/ledger';
import { exponentOf, formatAmount } from '@/core/money';
import { similarNames } from '@/core/similarNames';
import { touchCatalogue } from '@/store/catalogue';
import { readChart, renameAccount } from '@/store/charts';
import { type Context, known } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { resolveFigure } from '../asking/resolveFigure';
import { grantedAccounts, maySee, require, type Viewer } from '../asking/viewer';
import { readTrialBalance } from '../sheets/readTrialBalance';
import { checkedName } from './checkedName';

/** The chart of one entity, in the order of its tree, with every attribute and the balance of the scope. */
export async function readAccounts(ctx: Context, viewer: Viewer, scope: ScopeParams) {
  const balances = await readTrialBalance(ctx, viewer, {
    ...scope,
    zero: 'show',
    tree: 'yes',
    yearToDate: 'no',
    retained: 'one',
  });
  const asked = await resolveFigure(ctx, viewer, scope);
  const [entity] = asked.entities;
  if (!entity || asked.entities.length !== 1) throw wrong('entity', 'a chart belongs to one entity; name one');
  const chart = new Map((await readChart(ctx.read, entity.id)).map((a) => [a.code, a]));
  const booked = new Map(balances.rows.map((r) => [r.account, r]));
  const alike = new Map<string, string[]>();
  for (const group of similarNames([...chart.values()].filter((a) => a.posting)))
    for (const code of group)
      alike.set(
        code,
        group.filter((c) => c !== code),
      );
  const children = new Map<string | null, string[]>();
  for (const a of chart.values()) {
    const under = a.parent !== null && chart.has(a.parent) ? a.parent : null;
    children.set(under, [...(children.get(under) ?? []), a.code]);
  }
  const granted = grantedAccounts(viewer, entity.chart);
  // A heading is seen as soon as anything beneath it is: its balance is that of what is seen.
  const seen = granted && withHeadings(granted, chart);
  const languages = [...new Set([...chart.values()].flatMap((a) => Object.keys(a.names)))].sort();
  const zero = formatAmount(0, exponentOf(entity.currency));
  const rows: ChartRow[] = [];
  const walk = (under: string | null, depth: number): void => {
    for (const code of children.get(under) ?? []) {
      const a = chart.get(code) as NonNullable<ReturnType<typeof chart.get>>;
      const balance = booked.get(code);
      const none = seen === null || seen.has(code) ? zero : null;
      rows.push({
        account: code,
        name: a.name,
        names: a.names,
        type: a.type,
        statement: isTemporary(a.type) ? 'income statement' : 'balance sheet',
        depth,
        parent: a.parent,
        posting: a.posting,
        status: a.status,
        normal: a.normal,
        flow: a.flow,
        groups: a.groups,
        classification: a.classification,
        currency: a.currency,
        createdAt: a.created_at,
        createdBy: a.created_by,
        codes: a.codes,
        dims: a.dim_rules,
        similar: alike.get(code) ?? [],
        missing: languages.filter((l) => !a.names[l]),
        // What is outside the grant has no balance here: nothing is not the same as nothing to be seen.
        opening: balance?.opening ?? none,
        movement: balance?.movement ?? none,
        closing: balance?.closing ?? none,
        count: balance?.count ?? (none === null ? null : 0),
      });
      walk(code, depth + 1);
    }
  };
  walk(null, 0);
  return {
    entity: entity.code,
    currency: entity.currency,
    sentence: balances.sentence,
    parts: balances.parts,
    address: balances.address,
    languages,
    rows,
  };
}

function withHeadings(codes: ReadonlySet<string>, chart: ReadonlyMap<string, { parent: string | null }>): Set<string> {
  const found = new Set<string>();
  for (const code of codes)
    for (let at: string | null = code; at !== null && !found.has(at); at = chart.get(at)?.parent ?? null) found.add(at);
  return found;
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
  const account = maySee(viewer, wanted.entity) ? catalogue.entities.get(wanted.entity)?.accounts.get(code) : undefined;
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
