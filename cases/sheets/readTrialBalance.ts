import { wrong } from '@/contracts/problem';
import { refinement, type ScopeParams } from '@/contracts/scope';
import { addBalance, type Balance, emptyBalance, isEmpty } from '@/core/balances';
import { type calendar, periodText, yearOf as yearNumber } from '@/core/calendar';
import { columnHint, derived, isPercent } from '@/core/columns';
import { addDays } from '@/core/dates';
import type { Figure } from '@/core/figure';
import { add, formatAmount } from '@/core/money';
import type { Value } from '@/core/statement';
import { inTreeOrder } from '@/core/tree';
import { yearToDate } from '@/core/windows';
import { firstOff, resultsByYear, total } from '@/store/balances';
import type { CatalogueAccount } from '@/store/catalogue';
import type { Context } from '../asking/context';
import { explainEmpty } from '../asking/explainEmpty';
import { type ShownBalance, shown, valueText } from '../asking/present';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { resolveFigure } from '../asking/resolveFigure';
import type { Viewer } from '../asking/viewer';
import { refuseIfHeavy } from '../asking/weigh';
import { balancesByAccount, languagesOf, sumOf } from '../balances/accountBalances';
import { chartOf, columnBalances, columnsAsked } from '../balances/comparedColumns';

export interface TrialBalanceRow extends ShownBalance {
  account: string;
  name: string;
  type: string;
  heading: boolean;
  depth: number;
  /** Codes of schemes beside the house's own, by scheme. */
  codes?: Record<string, string>;
  /** What a heading that is no account of its own takes, as a selection. */
  selection?: string;
  yearToDate?: string;
  /** All debits and all credits since the fiscal year began. */
  yearDebit?: string;
  yearCredit?: string;
  /** Columns to compare with, by their keys. */
  values?: Record<string, string | null>;
  /** Of the retained earnings row: what its opening is made of. */
  parts?: RetainedPart[];
}

/** Every account's balance for a scope (method.md §4), with totals and the proof that it balances. */
export async function readTrialBalance(
  outer: Context,
  viewer: Viewer,
  params: ScopeParams & {
    zero: string;
    tree: string;
    yearToDate: string;
    retained: string;
    lang?: string;
    scheme?: string | undefined;
    column?: string[] | undefined;
    compare?: 'closing' | 'movement' | undefined;
    eliminated?: 'yes' | 'no' | undefined;
  },
) {
  const asked = await resolveFigure(outer, viewer, params, {
    translates: true,
    eliminates: params.eliminated === 'yes',
  });
  const ctx = await refuseIfHeavy(outer, asked, [{ by: 'account' }], params.heavy);
  const { digits } = asked;
  const wide = params.yearToDate === 'yes' ? asked.narrowed(yearToDateFigure(asked)) : null;
  const [accounts, toDate, whole, parts] = await Promise.all([
    balancesByAccount(ctx, asked),
    wide && balancesByAccount(ctx, wide),
    asked.translates || asked.eliminates ? null : total(ctx.read, asked.question),
    params.retained === 'parts' && !asked.translates ? resultsByYear(ctx.read, asked.question) : [],
  ]);
  const compared = params.column ? await comparedValues(ctx, asked, params.column, params.compare ?? 'closing') : null;
  const { chart } = chartOf(asked, columnsAsked(params.column ?? []));
  const rows: TrialBalanceRow[] = [];
  const sum = emptyBalance();
  const yearSum = emptyBalance();
  const sides = { openingDebit: 0, openingCredit: 0, closingDebit: 0, closingCredit: 0 };
  for (const account of chart.filter((a) => a.posting)) {
    const balance = accounts.get(account.code) ?? emptyBalance();
    addBalance(sum, balance);
    for (const end of ['opening', 'closing'] as const) {
      const side = `${end}${balance[end] < 0 ? 'Credit' : 'Debit'}` as const;
      sides[side] = add(sides[side], Math.abs(balance[end]));
    }
    addBalance(yearSum, toDate?.get(account.code) ?? emptyBalance());
  }
  if (params.scheme !== undefined && !chart.some((a) => a.codes[params.scheme as string]))
    throw wrong('scheme', `no account has a code of a scheme “${params.scheme}”`);
  const listed: Listed[] =
    params.tree === 'yes'
      ? params.scheme === undefined
        ? treeOrder(chart)
        : schemeOrder(chart, params.scheme)
      : chart.filter((a) => a.posting).map((account) => ({ account, depth: 0, beneath: [account.code] }));
  for (const { account, depth, beneath } of listed) {
    if (!account.posting && params.zero === 'active' && beneath.length === 0) continue;
    const balance = totalOf(accounts, beneath);
    const year = toDate && totalOf(toDate, beneath);
    const empty = isEmpty(balance) && (!year || isEmpty(year)) && !compared?.some(beneath);
    const idle = empty && (params.zero === 'active' ? account.status !== 'active' : params.zero !== 'show');
    if (idle) continue;
    if (params.zero === 'moved' && balance.count === 0) continue;
    if (
      (params.zero === 'show' || params.zero === 'active') &&
      asked.figure.accounts &&
      !beneath.some((code) => isSelected(asked, code))
    )
      continue;
    rows.push({
      account: account.code,
      name: (params.lang && account.names[params.lang]) || account.name,
      type: account.type,
      heading: !account.posting,
      depth,
      ...(account.posting && Object.keys(account.codes).length > 0 ? { codes: account.codes } : {}),
      ...(account.code.startsWith(SCHEME) ? { selection: beneath.join(', ') } : {}),
      ...shown(balance, digits),
      ...(year ? yearOf(year, digits) : {}),
      ...(compared ? { values: compared.of(beneath) } : {}),
      ...(parts.length > 0 && isRetained(asked, account.code)
        ? { parts: partsOf(asked, account.code, parts, balance) }
        : {}),
    });
  }
  return {
    sentence: asked.sentence,
    parts: asked.parts,
    address: asked.address,
    currency: asked.currency,
    translated: asked.translates,
    load: asked.question.asOf,
    languages: languagesOf(chart),
    /** Schemes of codes beside the house's own. */
    schemes: [...new Set(chart.flatMap((a) => Object.keys(a.codes)))].sort(),
    rows,
    /** Balances of accounts by the side on which they lie. */
    sides: Object.fromEntries(
      Object.entries(sides).map(([side, amount]) => [side, formatAmount(amount, digits)]),
    ) as Record<keyof typeof sides, string>,
    ...(compared
      ? { columns: compared.columns, columnTotals: compared.of(chart.filter((a) => a.posting).map((a) => a.code)) }
      : {}),
    totals: { ...shown(sum, digits), ...(wide ? yearOf(yearSum, digits) : {}) },
    tie: await tie(ctx, asked, sum, whole?.total ?? null),
    ...(sum.count === 0 && rows.length === 0 ? { empty: explainEmpty(asked) } : {}),
  };
}

const yearOf = (year: Balance, digits: number) => ({
  yearToDate: formatAmount(year.movement, digits),
  yearDebit: formatAmount(year.debit, digits),
  yearCredit: formatAmount(year.credit, digits),
});

/** The same accounts over other windows, and the changes (method.md §2): one measure of the balance in every column. */
async function comparedValues(ctx: Context, asked: ResolvedFigure, texts: string[], measure: 'closing' | 'movement') {
  const wanted = columnsAsked(texts);
  const reckoned = await columnBalances(ctx, asked, wanted, (figure) => figure);
  const amountOf = (key: string, codes: readonly string[]): Value | undefined => {
    const balances = reckoned.find((r) => r.column.key === key)?.balances;
    if (!balances) return undefined;
    return { is: 'amount', amount: codes.reduce((sum, code) => add(sum, balances.get(code)?.[measure] ?? 0), 0) };
  };
  const shown = reckoned.filter(({ column }) => column.is === 'window' || wanted.some((c) => c.key === column.key));
  return {
    columns: shown.map(({ column, label, title, figure }) => ({
      key: column.key,
      label,
      title,
      hint: columnHint(column, null),
      unit: isPercent(column) ? ('percent' as const) : ('amount' as const),
      scope: figure ? refinement(asked.figure, figure, asked.digits) : {},
    })),
    some: (codes: readonly string[]): boolean =>
      reckoned.some(({ column }) => {
        const v = amountOf(column.key, codes);
        return v?.is === 'amount' && v.amount !== 0;
      }),
    of: (codes: readonly string[]): Record<string, string | null> =>
      Object.fromEntries(
        shown.map(({ column }) => {
          const value =
            amountOf(column.key, codes) ??
            derived(
              column,
              (key) => amountOf(key, codes),
              () => undefined,
            );
          return [
            column.key,
            value && valueText(value, reckoned.find((r) => r.column.key === column.key)?.digits ?? asked.digits),
          ];
        }),
      ),
  };
}

/** All columns of a whole ledger sum to nothing, and debits equal credits; a narrowed one equals its figure. */
async function tie(ctx: Context, asked: ResolvedFigure, sum: Balance, whole: Balance | null) {
  const { figure, digits, question } = asked;
  const balanced = figure.accounts === null && figure.where.every((c) => c.on === 'period' || c.on === 'kind');
  const measures = ['opening', 'movement', 'roll', 'closing'] as const;
  // A part of translated books is the sum of its rows by definition: nothing proves it.
  if (!balanced && whole === null) return null;
  const differences = measures.map((m) => (balanced || whole === null ? sum[m] : sum[m] - whole[m]));
  const worst = differences.reduce((a, d) => (Math.abs(d) > Math.abs(a) ? d : a), 0);
  return {
    ok: worst === 0,
    offBy: formatAmount(worst, digits),
    means: balanced ? ('balances' as const) : ('parts' as const),
    ...(worst !== 0 && balanced ? { sinceLoad: await firstOff(ctx.read, question) } : {}),
  };
}

function yearToDateFigure(asked: ResolvedFigure): Figure {
  const { figure } = asked;
  const cal = asked.calendar;
  const { window } = figure;
  if (window.by === 'period') return { ...figure, window: { by: 'period', ...yearToDate(cal, window.to) } };
  const from = cal.periodsOf(cal.periodAt(window.to).year)[0]?.from ?? window.from;
  return { ...figure, window: { by: 'date', from, to: window.to } };
}

/** Accounts with their headings before them, depth, and the posting accounts beneath each. */
interface Listed {
  account: CatalogueAccount;
  depth: number;
  beneath: string[];
}

/** What headings by a scheme's codes are called among accounts; a code that no chart can have. */
const SCHEME = '~scheme:';

/** Accounts under the codes of a scheme, each code a heading with its subtotal; those without one come last. */
function schemeOrder(chart: CatalogueAccount[], scheme: string): Listed[] {
  const groups = new Map<string, CatalogueAccount[]>();
  for (const a of chart.filter((x) => x.posting)) {
    const code = a.codes[scheme] ?? '';
    groups.set(code, [...(groups.get(code) ?? []), a]);
  }
  const order = [...groups].sort(([a], [b]) => (a === '' ? 1 : b === '' ? -1 : a < b ? -1 : 1));
  return order.flatMap(([code, accounts]): Listed[] => {
    const name = code === '' ? `without a ${scheme} code` : `${scheme} ${code}`;
    const heading = { ...(accounts[0] as CatalogueAccount), code: `${SCHEME}${code}`, name, names: {}, posting: false };
    return [
      { account: heading, depth: 0, beneath: accounts.map((a) => a.code) },
      ...accounts.map((account) => ({ account, depth: 1, beneath: [account.code] })),
    ];
  });
}

/** Accounts in the order of their tree. */
const treeOrder = (chart: CatalogueAccount[]): Listed[] =>
  inTreeOrder(chart, (a) => a.posting).map(({ row, depth, beneath }) => ({
    account: row,
    depth,
    beneath: beneath.map((a) => a.code),
  }));

function totalOf(accounts: ReadonlyMap<string, Balance>, codes: readonly string[]): Balance {
  return sumOf(
    accounts,
    codes.map((code) => ({ code })),
  );
}

const isSelected = ({ question }: ResolvedFigure, code: string): boolean =>
  question.entities.some((e) => e.own === null || e.own.includes(e.entity.accounts.get(code)?.id ?? -1));

const isRetained = ({ entities }: ResolvedFigure, code: string): boolean =>
  entities.some((e) => e.retainedEarnings === code);

/** What retained earnings opened with, by the year that earned it and what was booked directly; each part traces. */
function partsOf(
  asked: ResolvedFigure,
  account: string,
  results: { year: number; result: number }[],
  balance: Balance,
): RetainedPart[] {
  const byYear = new Map<number, number>();
  for (const { year, result } of results) byYear.set(year, (byYear.get(year) ?? 0) + result);
  const cal = asked.calendar;
  const { window } = asked.figure;
  const yearEnds = (year: number): [from: string, to: string] => {
    const periods = cal.periodsOf(year);
    const [first, last] = [periods[0], periods[periods.length - 1]];
    if (!first || !last) return ['', ''];
    return window.by === 'period' ? [periodText(first.ordinal), periodText(last.ordinal)] : [first.from, last.to];
  };
  let direct = balance.opening;
  const parts = [...byYear]
    .sort(([a], [b]) => a - b)
    .map(([year, result]): RetainedPart => {
      direct -= result;
      const [from, to] = yearEnds(year);
      // An ended year's result has its adjustments in it, whatever is asked of the window's own years.
      const refine = { accounts: 'type income, type expense', from, to, adjustments: 'with' };
      return { label: `Result of fiscal year ${year}`, opening: formatAmount(result, asked.digits), year, refine };
    });
  const before = dayBefore(window, cal);
  const refine = before === null ? null : { accounts: account, from: '', to: before };
  return [...parts, { label: 'Booked directly', opening: formatAmount(direct, asked.digits), year: null, refine }];
}

interface RetainedPart {
  label: string;
  opening: string;
  year: number | null;
  refine: Record<string, string> | null;
}

/** The last period, or day, before a window; null where there is none. */
function dayBefore(window: Figure['window'], cal: ReturnType<typeof calendar>): string | null {
  if (window.by === 'date') return addDays(window.from, -1);
  const year = yearNumber(window.from);
  const earlier = [...cal.periodsOf(year - 1), ...cal.periodsOf(year)].filter((p) => p.ordinal < window.from);
  const last = earlier[earlier.length - 1];
  return last ? periodText(last.ordinal) : null;
}
