import { wrong } from '@/contracts/problem';
import { inTreeOrder } from '@/core/tree';
import type { CatalogueAccount } from '@/store/catalogue';
import { captionsOf, type SchemeCaption } from '@/store/schemes';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';

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

/** A statutory scheme with what was loaded of its captions. */
export interface Scheme {
  scheme: string;
  captions: ReadonlyMap<string, SchemeCaption>;
}

/** A scheme of a chart with its captions as of the figure's load. @throws ProblemError where no account has a code of it */
export async function schemeOf(
  ctx: Context,
  { asOf }: Pick<ResolvedFigure, 'asOf'>,
  chart: readonly CatalogueAccount[],
  scheme: string,
): Promise<Scheme> {
  if (!chart.some((a) => a.codes[scheme])) throw wrong('scheme', `no account has a code of a scheme “${scheme}”`);
  return { scheme, captions: await captionsOf(ctx.read, scheme, asOf) };
}

/** A code of a scheme with what it is called. */
interface SchemeCode {
  code: string;
  name: string;
  /** By language (ISO 639). */
  names: Record<string, string>;
}
interface SchemeGroup extends SchemeCode {
  accounts: CatalogueAccount[];
  /** Headings that it stands under, the outermost first. */
  under: SchemeCode[];
}

/**
 * Accounts by their codes of a scheme, in the order of its captions, other codes after them; those without one come last.
 * A caption whose code no account of the chart has is a heading of those after it whose codes begin with its own.
 */
export function underCodes(
  accounts: readonly CatalogueAccount[],
  chart: readonly CatalogueAccount[],
  { scheme, captions }: Scheme,
): SchemeGroup[] {
  const groups = new Map<string, CatalogueAccount[]>();
  for (const a of accounts) {
    const code = a.codes[scheme] ?? '';
    groups.set(code, [...(groups.get(code) ?? []), a]);
  }
  const called = (code: string): SchemeCode => {
    const caption = captions.get(code);
    const name = code === '' ? `without a ${scheme} code` : caption ? `${code} ${caption.name}` : `${scheme} ${code}`;
    const spoken = Object.entries(caption?.names ?? {}).map(([lang, said]) => [lang, `${code} ${said}`]);
    return { code, name, names: Object.fromEntries(spoken) };
  };
  const borne = new Set(chart.map((a) => a.codes[scheme]));
  const found: SchemeGroup[] = [];
  let under: string[] = [];
  for (const code of captions.keys()) {
    under = under.filter((heading) => code.startsWith(heading));
    const mine = groups.get(code);
    if (mine) found.push({ ...called(code), accounts: mine, under: under.map(called) });
    else if (!borne.has(code)) under = [...under, code];
  }
  const others = [...groups].filter(([code]) => !captions.has(code));
  others.sort(([a], [b]) => Number(a === '') - Number(b === '') || (a < b ? -1 : 1));
  return [...found, ...others.map(([code, accounts]) => ({ ...called(code), accounts, under: [] }))];
}

/** Accounts under the codes of a scheme, each code a heading with its subtotal, under the scheme's own headings. */
function schemeOrder(chart: CatalogueAccount[], scheme: Scheme): ListedAccount[] {
  const posting = chart.filter((a) => a.posting);
  const groups = underCodes(posting, chart, scheme);
  const heading = ({ code, name, names }: SchemeCode, depth: number, accounts: CatalogueAccount[]): ListedAccount => ({
    account: { ...(accounts[0] as CatalogueAccount), code: `${SCHEME}${code}`, name, names, posting: false },
    depth,
    beneath: accounts.map((a) => a.code),
  });
  const open = new Set<string>();
  return groups.flatMap((group) => {
    const { under, accounts } = group;
    const begun = under.flatMap((above, depth) => {
      if (open.has(above.code)) return [];
      open.add(above.code);
      const of = groups.filter((g) => g.under.some(({ code }) => code === above.code));
      const whole = of.flatMap((g) => g.accounts);
      return [heading(above, depth, whole)];
    });
    const lines = accounts.map((account) => ({ account, depth: under.length + 1, beneath: [account.code] }));
    return [...begun, heading(group, under.length, accounts), ...lines];
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
export function listedAccounts(chart: CatalogueAccount[], tree: boolean, scheme: Scheme | null): ListedAccount[] {
  if (!tree) return postingOrder(chart);
  return scheme === null ? treeOrder(chart) : schemeOrder(chart, scheme);
}

/** Whether a heading is a scheme's code, which no selection of accounts can name. */
export const isOfScheme = ({ code }: CatalogueAccount): boolean => code.startsWith(SCHEME);

/** Schemes of codes beside the house's own that a chart has. */
export const schemesOf = (chart: readonly CatalogueAccount[]): string[] =>
  [...new Set(chart.flatMap((a) => Object.keys(a.codes)))].sort();
