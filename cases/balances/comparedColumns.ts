import { wrong } from '@/contracts/problem';
import type { Balance } from '@/core/balances';
import { CalendarError, type calendar } from '@/core/calendar';
import {
  type Basis,
  type Column,
  ColumnError,
  columnLabel,
  type Due,
  type Part,
  readColumn,
  withBases,
} from '@/core/columns';
import { comparedWindow } from '@/core/comparisons';
import { FIRST_SET, type Figure, type Window } from '@/core/figure';
import { currencyText, windowText } from '@/core/sentence';
import type { SplitQuestion } from '@/core/split';
import type { CatalogueAccount } from '@/store/catalogue';
import type { Db } from '@/store/db';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { balancesByAccount, mergedChart } from './accountBalances';
import { differenceAccount } from './addedAccounts';
import { ordersOf } from './orderedBalances';
import { type Plan, planOf } from './plannedBalances';
import { hasDifference } from './translation';

/** One column with the balances that its values are made of; null where it cannot be said, or is made of others. */
export interface ColumnBalances {
  column: Column;
  label: string;
  title: string;
  figure: Figure | null;
  balances: ReadonlyMap<string, Balance> | null;
  /** Whether the column says anything of these accounts together; a plan does not of what was not planned. */
  knows(accounts: readonly string[]): boolean;
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
 * @param measure what is read of their balances: what is planned is asked for its like
 * @param counted the figure of a column narrowed to what counts, such as without closing entries
 */
export const columnBalances = (
  ctx: Context,
  asked: ResolvedFigure,
  wanted: readonly Column[],
  measure: 'closing' | 'movement',
  counted: (figure: Figure) => Figure = (figure) => figure,
): Promise<ColumnBalances[]> =>
  Promise.all(withBases(wanted).map((column) => balancesOfColumn(ctx, asked, column, measure, counted)));

/** A figure narrowed to what is not yet posted, or to year-end adjustments. */
const partOf = (figure: Figure, part: Part): Figure =>
  part === 'unposted'
    ? { ...figure, status: 'unposted' }
    : { ...figure, adjustments: 'with', where: [...figure.where, { on: 'kind', any: ['adjustment'] }] };

/** The figure as booked, of what is proposed in the sets of the sentence, or of both. */
function onBasis(figure: Figure, of: Basis): Figure {
  if (of === 'booked') return { ...figure, basis: undefined, sets: undefined };
  return { ...figure, basis: of === 'proposed' ? 'proposed' : 'with-proposed', sets: figure.sets ?? [FIRST_SET] };
}

const ownFigure = (figure: Figure, column: Column): Figure =>
  column.is === 'part' ? partOf(figure, column.of) : column.is === 'basis' ? onBasis(figure, column.of) : figure;

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

/**
 * What a column asks for by itself: a figure of its own, a plan over a window, or nothing, because it is made of others or
 * cannot be said.
 */
export type ColumnQuestion =
  | { is: 'figure'; figure: Figure; own: ResolvedFigure; title: string }
  | { is: 'plan'; figure: Figure; version: string; title: string }
  | { is: 'orders'; figure: Figure; due: Due; title: string }
  | { is: 'nothing'; title: string };

/** @param counted the figure of a column narrowed to what counts, such as without closing entries */
export function questionOfColumn(
  asked: ResolvedFigure,
  column: Column,
  counted: (figure: Figure) => Figure = (figure) => figure,
): ColumnQuestion {
  const cal = asked.calendar;
  switch (column.is) {
    case 'window':
    case 'comparison':
    case 'part':
    case 'basis':
    case 'span': {
      const compared =
        column.is === 'span'
          ? column.window
          : column.is === 'comparison'
            ? comparedWindow(cal, asked.figure.window, column.of)
            : asked.figure.window;
      const window = compared && inCalendar(cal, compared);
      if (!window) return { is: 'nothing', title: 'outside the calendar' };
      const figure = { ...ownFigure(asked.figure, column), window };
      return { is: 'figure', figure, own: asked.narrowed(counted(figure)), title: windowText(window, cal) };
    }
    case 'currency':
      return {
        is: 'figure',
        figure: asked.figure,
        own: asked.narrowed(counted(asked.figure), column.of),
        title: currencyText(column.of),
      };
    case 'budget': {
      const { version } = column;
      const window = column.of === 'window' ? asked.figure.window : comparedWindow(cal, asked.figure.window, 'ytd');
      return window
        ? { is: 'plan', figure: { ...asked.figure, window }, version, title: version }
        : { is: 'nothing', title: version };
    }
    case 'orders':
      return { is: 'orders', figure: asked.figure, due: column.of, title: '' };
    default:
      return { is: 'nothing', title: '' };
  }
}

/** What is beside the books for a column: what was planned, or ordered and not yet delivered. */
export const besideBooks = (
  db: Db,
  asked: ResolvedFigure,
  question: Extract<ColumnQuestion, { is: 'plan' | 'orders' }>,
  shape: Pick<SplitQuestion, 'splits' | 'trees'>,
  measure: 'closing' | 'movement',
): Promise<Plan> =>
  question.is === 'plan' ? planOf(db, asked, question, shape, measure) : ordersOf(db, asked, question, shape);

/** A part is what it adds within the window, whatever of its kind was there before. */
export const countedIn = (column: Column, balance: Balance): Balance =>
  column.is === 'part' ? { ...balance, closing: balance.movement } : balance;

async function balancesOfColumn(
  ctx: Context,
  asked: ResolvedFigure,
  column: Column,
  measure: 'closing' | 'movement',
  counted: (figure: Figure) => Figure,
): Promise<ColumnBalances> {
  const question = questionOfColumn(asked, column, counted);
  const head = { column, label: columnLabel(column), title: question.title, knows: () => true };
  switch (question.is) {
    case 'figure': {
      const balances = await balancesByAccount(ctx, question.own);
      return {
        ...head,
        figure: question.figure,
        balances: new Map([...balances].map(([account, b]) => [account, countedIn(column, b)])),
        ...(column.is === 'currency' ? { digits: question.own.digits } : {}),
      };
    }
    case 'plan':
    case 'orders': {
      const byAccount = { splits: [{ by: 'account' as const }], trees: new Map() };
      const plan = await besideBooks(ctx.read, asked, question, byAccount, measure);
      return {
        ...head,
        title: plan.lacks ?? question.title,
        figure: null,
        balances: new Map((plan.leaves ?? []).map(({ keys, balance }) => [keys[0] as string, balance])),
        knows: plan.knowsAccounts,
      };
    }
    default:
      return { ...head, figure: null, balances: null };
  }
}
