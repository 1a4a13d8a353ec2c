import { wrong } from '@/contracts/problem';
import { type Balance, emptyBalance } from '@/core/balances';
import { CalendarError, calendar } from '@/core/calendar';
import { type Column, ColumnError, columnLabel, type Part, readColumn, withBases } from '@/core/columns';
import { comparedWindow } from '@/core/comparisons';
import type { Figure, Window } from '@/core/figure';
import { currencyText, windowText } from '@/core/sentence';
import type { CatalogueAccount } from '@/store/catalogue';
import { balancesByAccount, mergedChart } from './accountBalances';
import { differenceAccount } from './addedAccounts';
import { budgetByAccount } from './budgets';
import type { Context } from './context';
import { type Asked, askedOf } from './resolveFigure';
import { hasDifference } from './translation';

/** One column with the balances that its values are made of; null where it cannot be said, or is made of others. */
export interface Reckoned {
  column: Column;
  label: string;
  title: string;
  figure: Figure | null;
  balances: ReadonlyMap<string, Balance> | null;
  /** Decimals, where the column is in another currency than the sheet. */
  digits?: number;
}

/** The chart of a sheet with these columns, and whether the sheet or a column of it has a translation difference, which then stands in the chart. */
export function chartOf(asked: Asked, columns: readonly Column[]): { chart: CatalogueAccount[]; differs: boolean } {
  const chart = mergedChart(asked);
  if (hasDifference(asked)) return { chart, differs: true };
  const differs = columns.some((c) => c.is === 'currency' && hasDifference(askedOf(asked.figure, asked.known, c.of)));
  return { chart: differs ? [...chart, differenceAccount] : chart, differs };
}

/** Columns as they are written in a request. @throws ProblemError naming the one that is none */
export function columnsAsked(texts: readonly string[]): Column[] {
  try {
    return texts.map(readColumn);
  } catch (error) {
    if (error instanceof ColumnError) throw wrong('column', error.message);
    throw error;
  }
}

/**
 * The wanted columns and those that they are made of, the window first; the same rule for each, only the window differs.
 * @param counted the figure of a column narrowed to what counts, such as without closing entries
 */
export const reckonColumns = (ctx: Context, asked: Asked, wanted: readonly Column[], counted: (figure: Figure) => Figure): Promise<Reckoned[]> =>
  Promise.all(withBases(wanted).map((column) => reckon(ctx, asked, column, counted)));

/** A figure narrowed to what is not yet posted, or to year-end adjustments. */
const partOf = (figure: Figure, part: Part): Figure =>
  part === 'unposted' ? { ...figure, status: 'unposted' } : { ...figure, adjustments: 'with', where: [...figure.where, { on: 'kind', any: ['adjustment'] }] };

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

async function reckon(ctx: Context, asked: Asked, column: Column, counted: (figure: Figure) => Figure): Promise<Reckoned> {
  const label = columnLabel(column);
  const cal = calendar((asked.entities[0] as Asked['entities'][number]).calendar);
  if (column.is === 'window' || column.is === 'comparison' || column.is === 'part' || column.is === 'span') {
    const compared =
      column.is === 'span' ? column.window : column.is === 'comparison' ? comparedWindow(cal, asked.figure.window, column.of) : asked.figure.window;
    const window = compared && inCalendar(cal, compared);
    if (!window) return { column, label, title: 'outside the calendar', figure: null, balances: null };
    const figure = { ...(column.is === 'part' ? partOf(asked.figure, column.of) : asked.figure), window };
    const own = askedOf(counted(figure), asked.known, asked.currency);
    const balances = await balancesByAccount(ctx, { ...own, entities: asked.entities, eliminates: asked.eliminates });
    // A part is what it adds within the window, whatever of its kind stood there before.
    const counts = column.is === 'part' ? new Map([...balances].map(([account, b]) => [account, { ...b, closing: b.movement }])) : balances;
    return { column, label, title: windowText(window, cal), figure, balances: counts };
  }
  if (column.is === 'currency') {
    const own = { ...askedOf(counted(asked.figure), asked.known, column.of), entities: asked.entities, eliminates: asked.eliminates };
    return { column, label, title: currencyText(column.of), figure: asked.figure, balances: await balancesByAccount(ctx, own), digits: own.digits };
  }
  if (column.is === 'budget') {
    const window = column.of === 'window' ? asked.figure.window : comparedWindow(cal, asked.figure.window, 'ytd');
    const amounts = window && (await budgetByAccount(ctx.read, asked, { ...asked.figure, window }, column.version));
    const balances = amounts && new Map([...amounts].map(([account, amount]) => [account, { ...emptyBalance(), movement: amount, closing: amount }]));
    return { column, label, title: column.version, figure: null, balances };
  }
  return { column, label, title: '', figure: null, balances: null };
}
