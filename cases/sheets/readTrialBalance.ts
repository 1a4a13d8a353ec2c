import { wrong } from '@/contracts/problem';
import type { ScopeParams } from '@/contracts/scope';
import { type Balance, emptyBalance, isEmpty } from '@/core/balances';
import type { Figure } from '@/core/figure';
import { languagesOf } from '@/core/ledger';
import { add, formatAmount, furthestOff, type Minor } from '@/core/money';
import type { Value } from '@/core/statement';
import { yearToDate } from '@/core/windows';
import { firstOff, resultsByYear, total } from '@/store/balances';
import type { CatalogueAccount } from '@/store/catalogue';
import type { Context } from '../asking/context';
import { explainEmpty } from '../asking/explainEmpty';
import { headOf, printerOf, shown } from '../asking/present';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { resolveFigure } from '../asking/resolveFigure';
import type { Viewer } from '../asking/viewer';
import { refuseIfHeavy } from '../asking/weigh';
import { balancesByAccount, sumOf } from '../balances/accountBalances';
import { type ComparedAccounts, comparedAccounts } from '../balances/comparedAccounts';
import { chartOf, columnsAsked } from '../balances/comparedColumns';
import { isOfScheme, type ListedAccount, listedAccounts, schemesOf } from '../balances/listedAccounts';
import { isRetained, type RetainedPart, retainedParts } from '../balances/retainedParts';

/** A trial balance before it is printed. */
interface TrialBalanceSheet {
  asked: ResolvedFigure;
  languages: string[];
  /** Schemes of codes beside the house's own. */
  schemes: string[];
  rows: TrialBalanceRow[];
  compared: ComparedAccounts | null;
  /** Values of all accounts under the columns to compare with. */
  comparedTotals: Record<string, Value | null> | null;
  /** Balances of accounts by the side on which they lie. */
  sides: Record<'openingDebit' | 'openingCredit' | 'closingDebit' | 'closingCredit', Minor>;
  total: Balance;
  /** Of the fiscal year to the end of the window, where it is asked for. */
  yearTotal: Balance | null;
  tie: TrialBalanceTie | null;
}

interface TrialBalanceRow {
  account: CatalogueAccount;
  name: string;
  depth: number;
  /** What a heading that is no account of its own takes, as a selection. */
  selection: string | null;
  balance: Balance;
  year: Balance | null;
  values: Record<string, Value | null> | null;
  /** Of the retained earnings row: what its opening is made of. */
  parts: RetainedPart[] | null;
}

interface TrialBalanceTie {
  offBy: Minor;
  /** Whether debits equal credits over a whole ledger, or the rows equal the figure. */
  means: 'balances' | 'parts';
  /** The load since which it is off; null where no load tells. */
  sinceLoad?: number | null;
}

type TrialBalanceParams = ScopeParams & {
  zero: string;
  tree: string;
  yearToDate: string;
  retained: string;
  lang?: string;
  scheme?: string | undefined;
  column?: string[] | undefined;
  compare?: 'closing' | 'movement' | undefined;
  eliminated?: 'yes' | 'no' | undefined;
};

/** Every account's balance for a scope (method.md §4), with totals and the proof that it balances. */
export const readTrialBalance = async (ctx: Context, viewer: Viewer, params: TrialBalanceParams) =>
  presentTrialBalance(await trialBalance(ctx, viewer, params));

async function trialBalance(outer: Context, viewer: Viewer, params: TrialBalanceParams): Promise<TrialBalanceSheet> {
  const asked = await resolveFigure(outer, viewer, params, {
    translates: true,
    eliminates: params.eliminated === 'yes',
  });
  const ctx = await refuseIfHeavy(outer, asked, [{ by: 'account' }], params.heavy);
  const wide = params.yearToDate === 'yes' ? asked.narrowed(yearToDateFigure(asked)) : null;
  const [accounts, toDate, whole, results] = await Promise.all([
    balancesByAccount(ctx, asked),
    wide && balancesByAccount(ctx, wide),
    asked.translates || asked.eliminates ? null : total(ctx.read, asked.question),
    params.retained === 'parts' && !asked.translates ? resultsByYear(ctx.read, asked.question) : [],
  ]);
  const compared = params.column
    ? await comparedAccounts(ctx, asked, params.column, params.compare ?? 'closing')
    : null;
  const { chart } = chartOf(asked, columnsAsked(params.column ?? []));
  if (params.scheme !== undefined && !schemesOf(chart).includes(params.scheme))
    throw wrong('scheme', `no account has a code of a scheme “${params.scheme}”`);
  const posting = chart.filter((a) => a.posting);
  const everyCode = posting.map((a) => a.code);
  const sum = sumOf(accounts, everyCode);
  const rows = listedAccounts(chart, params.tree === 'yes', params.scheme).flatMap((listed): TrialBalanceRow[] => {
    const { account, depth, beneath } = listed;
    const balance = sumOf(accounts, beneath);
    const year = toDate && sumOf(toDate, beneath);
    if (!isListed(asked, params.zero, listed, { balance, year, compared })) return [];
    return [
      {
        account,
        name: (params.lang && account.names[params.lang]) || account.name,
        depth,
        selection: isOfScheme(account) ? beneath.join(', ') : null,
        balance,
        year,
        values: compared && compared.of(beneath),
        parts:
          results.length > 0 && isRetained(asked, account.code)
            ? retainedParts(asked, account.code, results, balance.opening)
            : null,
      },
    ];
  });
  return {
    asked,
    languages: languagesOf(chart),
    schemes: schemesOf(chart),
    rows,
    compared,
    comparedTotals: compared && compared.of(everyCode),
    sides: bySide(everyCode.map((code) => accounts.get(code) ?? emptyBalance())),
    total: sum,
    yearTotal: toDate && sumOf(toDate, everyCode),
    tie: await tie(ctx, asked, sum, whole?.total ?? null),
  };
}

/** Whether a row appears under the rule for rows of nothing. */
function isListed(
  asked: ResolvedFigure,
  zero: string,
  { account, beneath }: ListedAccount,
  { balance, year, compared }: Pick<TrialBalanceRow, 'balance' | 'year'> & Pick<TrialBalanceSheet, 'compared'>,
): boolean {
  if (zero === 'active' && !account.posting && beneath.length === 0) return false;
  if (zero === 'moved' && balance.count === 0) return false;
  const empty = isEmpty(balance) && (!year || isEmpty(year)) && !compared?.some(beneath);
  if (empty && (zero === 'active' ? account.status !== 'active' : zero !== 'show')) return false;
  const withEmpty = zero === 'show' || zero === 'active';
  return !withEmpty || asked.figure.accounts === null || beneath.some((code) => isSelected(asked, code));
}

/** Balances summed by the side on which each lies. */
function bySide(balances: readonly Balance[]): TrialBalanceSheet['sides'] {
  const sides = { openingDebit: 0, openingCredit: 0, closingDebit: 0, closingCredit: 0 };
  for (const balance of balances)
    for (const end of ['opening', 'closing'] as const) {
      const side = `${end}${balance[end] < 0 ? 'Credit' : 'Debit'}` as const;
      sides[side] = add(sides[side], Math.abs(balance[end]));
    }
  return sides;
}

/** A trial balance as it is answered. */
function presentTrialBalance(sheet: TrialBalanceSheet) {
  const { asked, compared, sides, tie } = sheet;
  const { digits } = asked;
  const text = (amount: Minor): string => formatAmount(amount, digits);
  const texts = printerOf(compared?.columns ?? [], digits);
  return {
    ...headOf(asked),
    languages: sheet.languages,
    schemes: sheet.schemes,
    rows: sheet.rows.map(({ account, name, depth, selection, balance, year, values, parts }) => ({
      account: account.code,
      name,
      type: account.type,
      heading: !account.posting,
      depth,
      ...(account.posting && Object.keys(account.codes).length > 0 ? { codes: account.codes } : {}),
      ...(selection === null ? {} : { selection }),
      ...shown(balance, digits),
      ...(year ? shownYear(year, digits) : {}),
      ...(values ? { values: texts(values) } : {}),
      ...(parts ? { parts: parts.map((part) => ({ ...part, opening: text(part.opening) })) } : {}),
    })),
    sides: {
      openingDebit: text(sides.openingDebit),
      openingCredit: text(sides.openingCredit),
      closingDebit: text(sides.closingDebit),
      closingCredit: text(sides.closingCredit),
    },
    ...(compared ? { columns: compared.columns.map(({ digits: _own, ...column }) => column) } : {}),
    ...(sheet.comparedTotals ? { columnTotals: texts(sheet.comparedTotals) } : {}),
    totals: { ...shown(sheet.total, digits), ...(sheet.yearTotal ? shownYear(sheet.yearTotal, digits) : {}) },
    tie: tie && { ...tie, ok: tie.offBy === 0, offBy: text(tie.offBy) },
    ...(sheet.total.count === 0 && sheet.rows.length === 0 ? { empty: explainEmpty(asked) } : {}),
  };
}

const shownYear = (year: Balance, digits: number) => ({
  yearToDate: formatAmount(year.movement, digits),
  /** All debits and all credits since the fiscal year began. */
  yearDebit: formatAmount(year.debit, digits),
  yearCredit: formatAmount(year.credit, digits),
});

/** All columns of a whole ledger sum to nothing, and debits equal credits; a narrowed one equals its figure. */
async function tie(
  ctx: Context,
  asked: ResolvedFigure,
  sum: Balance,
  whole: Balance | null,
): Promise<TrialBalanceTie | null> {
  const { figure, question } = asked;
  const balanced = figure.accounts === null && figure.where.every((c) => c.on === 'period' || c.on === 'kind');
  const measures = ['opening', 'movement', 'roll', 'closing'] as const;
  // A part of translated books is the sum of its rows by definition: nothing proves it.
  if (!balanced && whole === null) return null;
  const differences = measures.map((m) => (balanced || whole === null ? sum[m] : sum[m] - whole[m]));
  const worst = furthestOff(differences);
  return {
    offBy: worst,
    means: balanced ? 'balances' : 'parts',
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

const isSelected = ({ question }: ResolvedFigure, code: string): boolean =>
  question.entities.some((e) => e.own === null || e.own.includes(e.entity.accounts.get(code)?.id ?? -1));
