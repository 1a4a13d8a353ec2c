import { wrong } from '@/contracts/problem';
import { type Balance, emptyBalance } from '@/core/balances';
import { CalendarError, type calendar } from '@/core/calendar';
import { type Column, ColumnError, columnLabel, type Part, readColumn, withBases } from '@/core/columns';
import { comparedWindow } from '@/core/comparisons';
import type { Figure, Window } from '@/core/figure';
import { currencyText, windowText } from '@/core/sentence';
import type { CatalogueAccount } from '@/store/catalogue';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { balancesByAccount, mergedChart } from './accountBalances';
import { differenceAccount } from './addedAccounts';
import { budgetByAccount } from './plannedBalances';
import { hasDifference } from './translation';

/** One column with the balances that its values are made of; null where it cannot be said, or is made of others. */
export interface ColumnBalances {
  column: Column;
  label: string;
  title: string;
  figure: Figure | null;
  balances: ReadonlyMap<string, Balance> | null;
  /** Decimals, where the column is in another currency than the sheet. */
  digits?: number;
}

/** The chart of a sheet with these columns, and whether the sheet or a column of it has a translation difference, which then is in the chart. */
export function chartOf(
  asked: ResolvedFigure,
  columns: readonly Column[],
): { chart: CatalogueAccount[]; differs: boolean } {
  const chart = mergedChart(asked);
  if (hasDifference(asked)) return { chart, differs: true };
  const differs = columns.some((c) => c.is === 'currency' && hasDifference(asked.narrowed({}, c.of)));
  return { chart: differs ? [...chart, differenceAccount] : chart, differs };
}

/**
 * Columns as they are written in a request.
 * @param options.records whether what is told of lines can be there
 * @throws ProblemError naming the one that is none
 */
export function columnsAsked(texts: readonly string[], options: { records?: boolean } = {}): Column[] {
  try {
    const columns = texts.map(readColumn);
    const records = columns.find((c) => c.is === 'records');
    if (records && !options.records) throw wrong('column', `“${records.key}” stands beside the rows of a split`);
    return columns;
  } catch (error) {
    if (error instanceof ColumnError) throw wrong('column', error.message);
    throw error;
  }
}

/**
 * The wanted columns and those that they are made of, the window first; the same rule for each, only the window differs.
 * @param counted the figure of a column narrowed to what counts, such as without closing entries
 */
export const columnBalances = (
  ctx: Context,
  asked: ResolvedFigure,
  wanted: readonly Column[],
  counted: (figure: Figure) => Figure,
): Promise<ColumnBalances[]> =>
  Promise.all(withBases(wanted).map((column) => balancesOfColumn(ctx, asked, column, counted)));

/** A figure narrowed to what is not yet posted, or to year-end adjustments. */
const partOf = (figure: Figure, part: Part): Figure =>
  part === 'unposted'
    ? { ...figure, status: 'unposted' }
    : { ...figure, adjustments: 'with', where: [...figure.where, { on: 'kind', any: ['adjustment'] }] };

/** The window where the calendar has it, null where it has not. */
function inCalendar(cal: ReturnType<typeof calendar>, window: Window): Window | null {
  try {
    for (const end of [window.from, window.to]) typeof end === 'number' ? cal.period(end) : cal.periodAt(end);
    return window;
  } catch (error) {
    if (error instanceof CalendarError) return null;
    throw error;
  }
}

/** What a column asks for by itself, or why it cannot be said; of a budget or a column made of others, null. */
export type ColumnFigure = { figure: Figure; title: string; currency: string } | { figure: null; title: string };

export function figureOfColumn(asked: ResolvedFigure, column: Column): ColumnFigure | null {
  const cal = asked.calendar;
  switch (column.is) {
    case 'window':
    case 'comparison':
    case 'part':
    case 'span': {
      const compared =
        column.is === 'span'
          ? column.window
          : column.is === 'comparison'
            ? comparedWindow(cal, asked.figure.window, column.of)
            : asked.figure.window;
      const window = compared && inCalendar(cal, compared);
      if (!window) return { figure: null, title: 'outside the calendar' };
      const figure = { ...(column.is === 'part' ? partOf(asked.figure, column.of) : asked.figure), window };
      return { figure, title: windowText(window, cal), currency: asked.currency };
    }
    case 'currency':
      return { figure: asked.figure, title: currencyText(column.of), currency: column.of };
    default:
      return null;
  }
}

/** The window that a budget column is of. */
export function budgetWindow(asked: ResolvedFigure, { of }: Extract<Column, { is: 'budget' }>): Window | null {
  const cal = asked.calendar;
  return of === 'window' ? asked.figure.window : comparedWindow(cal, asked.figure.window, 'ytd');
}

async function balancesOfColumn(
  ctx: Context,
  asked: ResolvedFigure,
  column: Column,
  counted: (figure: Figure) => Figure,
): Promise<ColumnBalances> {
  const label = columnLabel(column);
  const wanted = figureOfColumn(asked, column);
  if (wanted?.figure) {
    const { figure, title } = wanted;
    const own = asked.narrowed(counted(figure), wanted.currency);
    const balances = await balancesByAccount(ctx, own);
    // A part is what it adds within the window, whatever of its kind was there before.
    const counts =
      column.is === 'part'
        ? new Map([...balances].map(([account, b]) => [account, { ...b, closing: b.movement }]))
        : balances;
    return {
      column,
      label,
      title,
      figure,
      balances: counts,
      ...(column.is === 'currency' ? { digits: own.digits } : {}),
    };
  }
  if (wanted) return { column, label, title: wanted.title, figure: null, balances: null };
  if (column.is === 'budget') {
    const window = budgetWindow(asked, column);
    const amounts = window && (await budgetByAccount(ctx.read, asked, { ...asked.figure, window }, column.version));
    const balances =
      amounts &&
      new Map(
        [...amounts].map(([account, amount]) => [account, { ...emptyBalance(), movement: amount, closing: amount }]),
      );
    return { column, label, title: column.version, figure: null, balances };
  }
  return { column, label, title: '', figure: null, balances: null };
}
