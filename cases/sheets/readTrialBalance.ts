import type { ScopeParams } from '@/contracts/scope';
import { type Balance, emptyBalance, isEmpty } from '@/core/balances';
import type { Figure } from '@/core/figure';
import { languagesOf } from '@/core/ledger';
import { add, formatAmount, furthestOff, type Minor } from '@/core/money';
import { amountIn, amountOf, type Cells, cellsOf, countIn, type Proof, type Sheet, type SheetRow } from '@/core/sheet';
import { yearToDate } from '@/core/windows';
import { firstOff, resultsByYear } from '@/store/balances';
import type { CatalogueAccount } from '@/store/catalogue';
import type { Context } from '../asking/context';
import { explainEmpty } from '../asking/explainEmpty';
import { headOf, printerOf, shownCells, shownColumns } from '../asking/present';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { resolveFigure } from '../asking/resolveFigure';
import type { Viewer } from '../asking/viewer';
import { balancesByAccount, figureTotal, sumOf } from '../balances/accountBalances';
import { type ComparedAccounts, comparedAccounts } from '../balances/comparedAccounts';
import { chartOf, columnsAsked } from '../balances/comparedColumns';
import { isOfScheme, type ListedAccount, listedAccounts, schemeOf, schemesOf } from '../balances/listedAccounts';
import { isRetained, type RetainedPart, retainedParts } from '../balances/retainedParts';

/** A trial balance before it is printed. */
interface TrialBalanceSheet extends Sheet<TrialBalanceRow, TrialBalanceProof> {
  asked: ResolvedFigure;
  languages: string[];
  /** Schemes of codes beside the house's own. */
  schemes: string[];
  /** Whether the fiscal year to the end of the window is told of. */
  ofYear: boolean;
  /** Whether there are columns to compare with. */
  compares: boolean;
  whole: Cells;
  /** Balances of accounts by the side on which they lie. */
  sides: Record<'openingDebit' | 'openingCredit' | 'closingDebit' | 'closingCredit', Minor>;
}

interface TrialBalanceRow extends SheetRow {
  account: CatalogueAccount;
  /** What a heading that is no account of its own takes, as a selection. */
  selection: string | null;
  /** Of the retained earnings row: what its opening is made of. */
  parts: RetainedPart[] | null;
}

interface TrialBalanceProof extends Proof {
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

/** The same before it is printed. */
export async function trialBalance(
  ctx: Context,
  viewer: Viewer,
  params: TrialBalanceParams,
): Promise<TrialBalanceSheet> {
  const asked = await resolveFigure(ctx, viewer, params, {
    translates: true,
    eliminates: params.eliminated === 'yes',
  });
  const wide = params.yearToDate === 'yes' ? asked.narrowed(yearToDateFigure(asked)) : null;
  const [accounts, toDate, whole, results] = await Promise.all([
    balancesByAccount(ctx, asked),
    wide && balancesByAccount(ctx, wide),
    asked.translates || asked.eliminates ? null : figureTotal(ctx, asked),
    params.retained === 'parts' && !asked.translates ? yearResults(ctx, asked) : [],
  ]);
  const compared = params.column
    ? await comparedAccounts(ctx, asked, params.column, params.compare ?? 'closing')
    : null;
  const { chart } = chartOf(asked, columnsAsked(params.column ?? []));
  const scheme = params.scheme === undefined ? null : await schemeOf(ctx, asked, chart, params.scheme);
  const posting = chart.filter((a) => a.posting);
  const everyCode = posting.map((a) => a.code);
  const sum = sumOf(accounts, everyCode);
  const rows = listedAccounts(chart, params.tree === 'yes', scheme).flatMap((listed): TrialBalanceRow[] => {
    const { account, depth, beneath } = listed;
    const balance = sumOf(accounts, beneath);
    const year = toDate && sumOf(toDate, beneath);
    if (!isListed(asked, params.zero, listed, { balance, year, compared })) return [];
    const selection = isOfScheme(account) ? beneath.join(', ') : null;
    return [
      {
        key: account.code,
        account,
        label: (params.lang && account.names[params.lang]) || account.name,
        depth,
        refine: { accounts: selection ?? account.code },
        selection,
        cells: { ...cellsOf(balance), ...(year ? yearCells(year) : {}), ...compared?.of(beneath) },
        parts:
          results.length > 0 && isRetained(asked, account.code)
            ? retainedParts(asked, account.code, results, balance.opening)
            : null,
      },
    ];
  });
  const proof = await proved(ctx, asked, sum, whole);
  return {
    asked,
    languages: languagesOf(chart),
    schemes: schemesOf(chart),
    ofYear: toDate !== null,
    compares: compared !== null,
    columns: compared?.columns ?? [],
    rows,
    whole: { ...cellsOf(sum), ...(toDate ? yearCells(sumOf(toDate, everyCode)) : {}), ...compared?.of(everyCode) },
    sides: bySide(everyCode.map((code) => accounts.get(code) ?? emptyBalance())),
    proofs: proof ? [proof] : [],
  };
}

/** What moved since the fiscal year began, and all its debits and credits. */
const yearCells = ({ movement, debit, credit }: Balance): Cells => ({
  yearToDate: amountOf(movement),
  yearDebit: amountOf(debit),
  yearCredit: amountOf(credit),
});

/** Whether a row appears under the rule for rows of nothing. */
function isListed(
  asked: ResolvedFigure,
  zero: string,
  { account, beneath }: ListedAccount,
  { balance, year, compared }: { balance: Balance; year: Balance | null; compared: ComparedAccounts | null },
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
  const { asked, columns, compares, sides, whole, rows } = sheet;
  const { digits } = asked;
  const text = (amount: Minor): string => formatAmount(amount, digits);
  const beside = printerOf(columns, digits);
  const year = (cells: Cells) => ({
    yearToDate: text(amountIn(cells, 'yearToDate')),
    yearDebit: text(amountIn(cells, 'yearDebit')),
    yearCredit: text(amountIn(cells, 'yearCredit')),
  });
  const [proof] = sheet.proofs;
  return {
    ...headOf(asked),
    languages: sheet.languages,
    schemes: sheet.schemes,
    rows: rows.map(({ account, label, depth, selection, cells, parts }) => ({
      account: account.code,
      name: label,
      type: account.type,
      heading: !account.posting,
      depth,
      ...(account.posting && Object.keys(account.codes).length > 0 ? { codes: account.codes } : {}),
      ...(selection === null ? {} : { selection }),
      ...shownCells(cells, digits),
      ...(sheet.ofYear ? year(cells) : {}),
      ...(compares ? { values: beside(cells) } : {}),
      ...(parts ? { parts: parts.map((part) => ({ ...part, opening: text(part.opening) })) } : {}),
    })),
    sides: {
      openingDebit: text(sides.openingDebit),
      openingCredit: text(sides.openingCredit),
      closingDebit: text(sides.closingDebit),
      closingCredit: text(sides.closingCredit),
    },
    ...(compares ? { columns: shownColumns(columns), columnTotals: beside(whole) } : {}),
    totals: { ...shownCells(whole, digits), ...(sheet.ofYear ? year(whole) : {}) },
    tie: proof
      ? {
          offBy: text(proof.off),
          means: proof.means,
          ...(proof.sinceLoad === undefined ? {} : { sinceLoad: proof.sinceLoad }),
          ok: proof.ok,
        }
      : null,
    ...(countIn(whole) === 0 ? { empty: explainEmpty(asked) } : {}),
  };
}

/** All columns of a whole ledger sum to nothing, and debits equal credits; a narrowed one equals its figure. */
async function proved(
  ctx: Context,
  asked: ResolvedFigure,
  sum: Balance,
  whole: Balance | null,
): Promise<TrialBalanceProof | null> {
  const { figure } = asked;
  const balanced = figure.accounts === null && figure.where.every((c) => c.on === 'period' || c.on === 'kind');
  const measures = ['opening', 'movement', 'roll', 'closing'] as const;
  // A part of translated books is the sum of its rows by definition: nothing proves it.
  if (!balanced && whole === null) return null;
  const differences = measures.map((m) => (balanced || whole === null ? sum[m] : sum[m] - whole[m]));
  const worst = furthestOff(differences);
  return {
    ok: worst === 0,
    off: worst,
    means: balanced ? 'balances' : 'parts',
    ...(worst !== 0 && balanced ? { sinceLoad: await loadThatIsOff(ctx, asked) } : {}),
  };
}

async function loadThatIsOff(ctx: Context, asked: ResolvedFigure) {
  const { db, question } = await asked.ask(ctx, []);
  return firstOff(db, question);
}

async function yearResults(ctx: Context, asked: ResolvedFigure) {
  const { db, question } = await asked.ask(ctx, [{ by: 'account' }, { by: 'period' }]);
  return resultsByYear(db, question);
}

function yearToDateFigure(asked: ResolvedFigure): Figure {
  const { figure } = asked;
  const cal = asked.calendar;
  const { window } = figure;
  if (window.by === 'period') return { ...figure, window: { by: 'period', ...yearToDate(cal, window.to) } };
  const from = cal.periodsOf(cal.periodAt(window.to).year)[0]?.from ?? window.from;
  return { ...figure, window: { by: 'date', from, to: window.to } };
}

const isSelected = ({ books }: ResolvedFigure, code: string): boolean =>
  books.some((e) => e.own === null || e.own.includes(e.entity.accounts.get(code)?.id ?? -1));
