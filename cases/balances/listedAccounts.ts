import { inTreeOrder } from '@/core/tree';
import type { CatalogueAccount } from '@/store/catalogue';

/** An account or a heading in the order of a trial balance. */
export interface ListedAccount {
  account: CatalogueAccount;
  /** From 0 at the top. */
  depth: number;
  /** Codes of the posting accounts that it sums. */
  beneath: string[];
}

/** What headings by a scheme's codes are called among accounts; a code that no chart can have. */
const SCHEME = '~scheme:';

/** Accounts under the codes of a scheme, each code a heading with its subtotal; those without one come last. */
function schemeOrder(chart: CatalogueAccount[], scheme: string): ListedAccount[] {
  const groups = new Map<string, CatalogueAccount[]>();
  for (const a of chart.filter((x) => x.posting)) {
    const code = a.codes[scheme] ?? '';
    groups.set(code, [...(groups.get(code) ?? []), a]);
  }
  const order = [...groups].sort(([a], [b]) => (a === '' ? 1 : b === '' ? -1 : a < b ? -1 : 1));
  return order.flatMap(([code, accounts]): ListedAccount[] => {
    const name = code === '' ? `without a ${scheme} code` : `${scheme} ${code}`;
    const heading = { ...(accounts[0] as CatalogueAccount), code: `${SCHEME}${code}`, name, names: {}, posting: false };
    return [
      { account: heading, depth: 0, beneath: accounts.map((a) => a.code) },
      ...accounts.map((account) => ({ account, depth: 1, beneath: [account.code] })),
    ];
  });
}

/** Accounts in the order of their tree. */
const treeOrder = (chart: CatalogueAccount[]): ListedAccount[] =>
  inTreeOrder(chart, (a) => a.posting).map(({ row, depth, beneath }) => ({
    account: row,
    depth,
    beneath: beneath.map((a) => a.code),
  }));

/** Posting accounts alone. */
const postingOrder = (chart: CatalogueAccount[]): ListedAccount[] =>
  chart.filter((a) => a.posting).map((account) => ({ account, depth: 0, beneath: [account.code] }));

/** Accounts in the order that is asked for: flat, in the tree of the chart, or under the codes of a scheme. */
export function listedAccounts(chart: CatalogueAccount[], tree: boolean, scheme: string | undefined): ListedAccount[] {
  if (!tree) return postingOrder(chart);
  return scheme === undefined ? treeOrder(chart) : schemeOrder(chart, scheme);
}

/** Whether a heading is a scheme's code, which no selection of accounts can name. */
export const isOfScheme = ({ code }: CatalogueAccount): boolean => code.startsWith(SCHEME);

/** Schemes of codes beside the house's own that a chart has. */
export const schemesOf = (chart: readonly CatalogueAccount[]): string[] =>
  [...new Set(chart.flatMap((a) => Object.keys(a.codes)))].sort();
