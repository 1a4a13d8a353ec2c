import { ProblemError, wrong } from '@/contracts/problem';
import { refinement } from '@/contracts/scope';
import { type AlignedRow, alignedRows, isTime, pairedTimes } from '@/core/alignedRows';
import { type Balance, emptyBalance } from '@/core/balances';
import { type Column, columnHint, columnLabel, derived, isPercent, withBases } from '@/core/columns';
import { type Figure, refine, type Split, splitsWindow } from '@/core/figure';
import { isTemporary } from '@/core/ledger';
import { type LineStats, mergeStats, noLines, statValue } from '@/core/lineStats';
import { furthestOff, type Minor } from '@/core/money';
import { amountOf, type Cells, type SheetColumn, type Value } from '@/core/sheet';
import { byRow, CHART, pathKey, type SplitParts, type SplitRow, splitOfBalances } from '@/core/split';
import { recordSums, TooManyRowsError } from '@/store/balances';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { figureBalance, mergedChart } from './accountBalances';
import { besideBooks, type ColumnQuestion, columnsAsked, countedIn, questionOfColumn } from './comparedColumns';
import { chartTree, splitParts } from './splitParts';

export type Measure = 'closing' | 'movement';

interface SplitHead extends SheetColumn {
  /** Of a variance of income and expense: less than nothing, as it is signed, is favourable (method.md §9). */
  favourable: 'credit' | null;
}

/** A column of a split: the same split of another figure; no sheet where it cannot be said. */
interface ColumnSheet {
  column: Column;
  title: string;
  figure: Figure | null;
  sheet: SplitParts | null;
  whole: Balance | null;
  /** Whether the column says anything of a row, by its path; a plan does not below the level at which it was set. */
  knows(path: readonly string[]): boolean;
  digits: number;
  /** For each split of time: the key of the compared window → the key of the sheet's own row beside it. */
  sheetKeyOf: (ReadonlyMap<string, string> | null)[];
  /** For each split of time: the sheet's key → the key in the compared window. */
  columnKeyOf: (ReadonlyMap<string, string> | null)[];
}

/**
 * Columns beside the rows of a split: other windows, budgets, changes. Each is the same figure asked over its own window
 * and split alike, so that every column adds up to its own whole; a row that only one of them has is there as well.
 */
export async function comparedSplit(
  ctx: Context,
  asked: ResolvedFigure,
  splits: Split[],
  [main, value]: [SplitParts, Balance],
  texts: readonly string[],
  askedMeasure: Measure,
) {
  // Closing balances of consecutive periods must not be summed; their movements add up to the whole.
  const measure = splits.some((s) => splitsWindow(asked.figure.window, s)) ? 'movement' : askedMeasure;
  const wanted = columnsAsked(texts, { records: true });
  const bases = withBases(wanted);
  const columnSheets = await Promise.all(
    bases.map((column) =>
      column.is === 'window'
        ? windowOf(asked, column, main, value)
        : sheetOfColumn(ctx, asked, column, splits, measure),
    ),
  );
  const sheets = columnSheets.flatMap(({ sheet }) => (sheet ? [sheet] : []));
  /** Columns that have rows, with their places among the sheets. */
  const places = new Map(
    columnSheets
      .filter((r) => r.sheet)
      .map((r, i) => [r.column.key, { at: i, columnKeyOf: r.columnKeyOf, knows: r.knows }]),
  );
  const shown = columnSheets.filter(({ column }) => column.is === 'window' || wanted.some((c) => c.key === column.key));
  const records = await recordsOf(ctx, asked, splits, columnSheets, 'are refused');
  const wholes = new Map(
    columnSheets.flatMap(({ column, whole }) => (whole ? [[column.key, amountOf(whole[measure])]] : [])),
  );
  const names = { chart: mergedChart(asked), trees: asked.known.catalogue.trees };
  const inTime = splits.some(isTime);
  const rows = alignedRows(sheets, splits).map((row) => ({
    ...rowOf(row, row.rows[places.get('window')?.at as number] ?? null),
    values: valuesOf(
      shown,
      records(pathKey(row.path)),
      (key) => {
        const place = places.get(key);
        return place?.knows(row.path) && hasMatchingPeriod(row.path, place)
          ? amountOf(row.rows[place.at]?.balance[measure] ?? 0)
          : undefined;
      },
      wholes,
    ),
    /** By column, what asks for the row over the column's own window, where its members are of time. */
    scopes: inTime ? scopesOf(asked, row, splits, shown, names) : undefined,
  }));
  return {
    columns: headsOf(asked, shown),
    rows,
    values: valuesOf(shown, records(null), (key) => wholes.get(key), wholes),
    off: worstOf(columnSheets, measure),
  };
}

/** The same columns of a figure as one row, such as a strip of the thread shows. */
export async function comparedTotals(
  ctx: Context,
  asked: ResolvedFigure,
  texts: readonly string[],
  measure: Measure,
): Promise<{ columns: Pick<SheetColumn, 'key' | 'digits'>[]; cells: Cells }> {
  const wanted = columnsAsked(texts, { records: true });
  const bases = withBases(wanted).map((column) => ({ column, question: questionOfColumn(asked, column) }));
  const columnWholes = await Promise.all(
    bases.map(({ column, question }) => wholeUnder(ctx, asked, column, question, measure)),
  );
  const wholes = new Map(columnWholes.flatMap(({ key, value }) => (value === null ? [] : [[key, amountOf(value)]])));
  const digits = new Map(columnWholes.map((r) => [r.key, r.digits]));
  const shown = [{ key: 'window', is: 'window' } as const, ...wanted].map((column) => ({
    column,
    digits: digits.get(column.key) ?? asked.digits,
  }));
  // A strip of the thread is no question of its own: a statistic that would take long is left out there.
  const figures = bases.map(({ column, question }) => ({
    column,
    figure: question.is === 'figure' ? question.figure : null,
    sheetKeyOf: [],
  }));
  const records = await recordsOf(ctx, asked, [], figures, 'are left out');
  return {
    columns: shown.map(({ column, digits }) => ({ key: column.key, digits })),
    cells: valuesOf(shown, records(null), (key) => wholes.get(key), wholes),
  };
}

/** The whole of a column that is a figure of its own, or a plan; null of any other. */
async function wholeUnder(
  ctx: Context,
  asked: ResolvedFigure,
  column: Column,
  question: ColumnQuestion,
  measure: Measure,
): Promise<{ key: string; digits: number; value: Minor | null }> {
  const { key } = column;
  switch (question.is) {
    case 'figure': {
      const { own } = question;
      return { key, digits: own.digits, value: countedIn(column, await figureBalance(ctx, own))[measure] };
    }
    case 'plan':
    case 'orders': {
      const { whole } = await besideBooks(ctx.read, asked, question, { splits: [], trees: new Map() }, measure);
      return { key, digits: asked.digits, value: whole };
    }
    default:
      return { key, digits: asked.digits, value: null };
  }
}

/**
 * The statistics of each row's lines, for the columns that show them; read from the lines one by one.
 * @returns for the key of a row's path, or null for the whole
 */
async function recordsOf(
  ctx: Context,
  asked: ResolvedFigure,
  splits: Split[],
  columnSheets: readonly (Pick<ColumnSheet, 'column' | 'figure' | 'sheetKeyOf'> & { sheet?: SplitParts | null })[],
  ofHeavy: 'are refused' | 'are left out',
): Promise<(path: string | null) => StatisticOf> {
  const trees = new Map([...asked.known.catalogue.trees, [CHART, chartTree(asked)]]);
  const found = new Map<string, { rows: Map<string, LineStats>; whole: LineStats; alike: boolean }>();
  for (const key of new Set(columnSheets.flatMap(({ column }) => (column.is === 'records' ? [column.in] : [])))) {
    const { figure, sheetKeyOf = [], sheet } = columnSheets.find((r) => r.column.key === key) ?? {};
    if (!figure || sheet === null) continue;
    const own = asked.narrowed(figure);
    // Only lines themselves tell how large they are.
    const weighed = await own.ask(ctx, [...splits, { by: 'entry' }]).catch((error: unknown) => {
      if (ofHeavy === 'are left out' && error instanceof ProblemError && error.kind === 'heavy') return null;
      throw error;
    });
    if (!weighed) continue;
    const leaves = await recordSums(weighed.db, weighed.question, splits).catch((error: unknown) => {
      if (error instanceof TooManyRowsError)
        throw wrong('by', `${error.message}; narrow the scope or split by less at once`);
      throw error;
    });
    const beside = leaves.map(({ keys, kept }) => ({
      kept,
      keys: keys.map((k, i) => (k === null ? null : (sheetKeyOf[i]?.get(k) ?? k))),
    }));
    found.set(key, { ...byRow(beside, { splits, trees }, mergeStats), alike: !own.translates });
  }
  return (path) => (column) => {
    const lines = found.get(column.in);
    // Books in several currencies have lines and quantities to count, but no amounts to hold against each other.
    if (!lines || !(lines.alike || column.of === 'lines' || column.of === 'quantity')) return null;
    return statValue(path === null ? lines.whole : (lines.rows.get(path) ?? noLines()), column.of);
  };
}

const windowOf = (asked: ResolvedFigure, column: Column, sheet: SplitParts, whole: Balance): ColumnSheet => ({
  column,
  title: questionOfColumn(asked, column).title,
  figure: asked.figure,
  sheet,
  whole,
  knows: () => true,
  digits: asked.digits,
  sheetKeyOf: [],
  columnKeyOf: [],
});

async function sheetOfColumn(
  ctx: Context,
  asked: ResolvedFigure,
  column: Column,
  splits: Split[],
  measure: Measure,
): Promise<ColumnSheet> {
  const none = {
    column,
    figure: null,
    sheet: null,
    whole: null,
    knows: () => true,
    digits: asked.digits,
    sheetKeyOf: [],
    columnKeyOf: [],
  };
  const question = questionOfColumn(asked, column);
  const { title } = question;
  if (question.is === 'plan' || question.is === 'orders')
    return { ...none, title, ...(await budgeted(ctx, asked, column, question, splits, measure)) };
  if (question.is === 'nothing') return { ...none, title };
  const { figure, own } = question;
  const sheetKeyOf = splits.map((split) =>
    isTime(split) ? pairedTimes(asked.calendar, split.by, asked.figure.window, figure.window) : null,
  );
  if (splits.some((split, i) => isTime(split) && sheetKeyOf[i] === null))
    return { ...none, title: `${title}, which is not as long`, figure };
  if (own.translates && splits.length > 1 && splits.some(isTime))
    return { ...none, title: 'time is translated where rows are of nothing else', figure };
  const [sheet, whole] = await splitParts(ctx, own, splits, null);
  // A line dated outside its window has no matching period: it would appear in the row of another time.
  if (sheet.rows.some((row) => row.path.some((key, level) => sheetKeyOf[level]?.has(key) === false)))
    return { ...none, title: `${title}, with lines that are dated outside of it`, figure };
  const counted = (balance: Balance): Balance => countedIn(column, balance);
  return {
    column,
    title,
    figure,
    whole: counted(whole),
    knows: () => true,
    digits: own.digits,
    sheet: {
      ...sheet,
      rows: sheet.rows.map((row) => ({ ...row, path: sheetPath(row, sheetKeyOf), balance: counted(row.balance) })),
      sum: counted(sheet.sum),
    },
    sheetKeyOf: sheetKeyOf,
    columnKeyOf: sheetKeyOf.map((pair) => pair && new Map([...pair].map(([other, mine]) => [mine, other]))),
  };
}

async function budgeted(
  ctx: Context,
  asked: ResolvedFigure,
  column: Column,
  question: Extract<ColumnQuestion, { is: 'plan' | 'orders' }>,
  splits: Split[],
  measure: Measure,
): Promise<Partial<ColumnSheet>> {
  // The year so far is no part of a single period.
  if (column.is === 'budget' && column.of === 'ytd' && splits.some(isTime)) return {};
  const trees = new Map([...asked.known.catalogue.trees, [CHART, chartTree(asked)]]);
  // Its whole is asked for by itself, so that its rows can be held against it.
  const [plan, { whole }] = await Promise.all([
    besideBooks(ctx.read, asked, question, { splits, trees }, measure),
    besideBooks(ctx.read, asked, question, { splits: [], trees }, measure),
  ]);
  const sheet = plan.leaves && splitOfBalances(plan.leaves, { splits, across: null, trees });
  return {
    ...(plan.lacks === null ? {} : { title: plan.lacks }),
    knows: plan.knows,
    // A row of what nobody planned is none, where nothing was booked either.
    sheet: sheet && { ...sheet, rows: sheet.rows.filter((row) => plan.knows(row.path)) },
    whole: whole === null ? null : { ...emptyBalance(), movement: whole, closing: whole },
  };
}

/** A row for a month outside the sheet’s window, from a line dated outside it, has no matching month in the compared window. */
const hasMatchingPeriod = (path: readonly string[], { columnKeyOf }: Pick<ColumnSheet, 'columnKeyOf'>): boolean =>
  path.every((key, level) => columnKeyOf[level]?.has(key) !== false);

/** Where a row of another window is: each period at its matching one. */
const sheetPath = ({ path }: SplitRow, sheetKeyOf: (ReadonlyMap<string, string> | null)[]): string[] =>
  path.map((key, level) => sheetKeyOf[level]?.get(key) ?? key);

/** The sheet's own row; of one that only another column has, a row of nothing. */
const rowOf = ({ member, path, depth }: AlignedRow, own: SplitRow | null): SplitRow =>
  own ?? { member, path, depth, balance: emptyBalance(), parts: null, cells: [] };

/** A statistic of a row's lines, or of the whole's, for a column. */
type StatisticOf = (column: Extract<Column, { is: 'records' }>) => Value | null;

function valuesOf(
  shown: readonly Pick<ColumnSheet, 'column'>[],
  statisticOf: StatisticOf,
  of: (key: string) => Value | undefined,
  wholes: ReadonlyMap<string, Value>,
): Cells {
  return Object.fromEntries(
    shown.map(({ column }) => [
      column.key,
      column.is === 'records' ? statisticOf(column) : (of(column.key) ?? derived(column, of, (key) => wholes.get(key))),
    ]),
  );
}

function headsOf(asked: ResolvedFigure, shown: readonly ColumnSheet[]): SplitHead[] {
  const { accounts } = asked.figure;
  const types = new Map(mergedChart(asked).map((a) => [a.code, a.type]));
  const taken = asked.books.flatMap((e) =>
    e.own === null ? [...types.values()] : e.own.map((id) => e.entity.accountOf.get(id)?.type),
  );
  const temporary = accounts !== null && taken.every((type) => type !== undefined && isTemporary(type));
  return shown.map(({ column, title, figure, digits }) => ({
    key: column.key,
    label: columnLabel(column),
    title,
    hint: columnHint(column, 'the whole sheet'),
    unit: isPercent(column) ? 'percent' : column.is === 'records' ? 'number' : 'amount',
    scope: figure ? refinement(asked.figure, figure, asked.digits) : {},
    favourable: column.is === 'variance' && temporary ? 'credit' : null,
    digits: column.is === 'currency' ? digits : undefined,
  }));
}

/** What asks for a row over the window of each column. */
function scopesOf(
  asked: ResolvedFigure,
  { path }: AlignedRow,
  splits: Split[],
  shown: readonly ColumnSheet[],
  names: Parameters<typeof refine>[3],
): Record<string, Record<string, string | string[]>> {
  return Object.fromEntries(
    shown.flatMap((there) => {
      const { column, figure, columnKeyOf, sheet } = there;
      if (!figure || !sheet || !hasMatchingPeriod(path, there)) return [];
      const refined = path.reduce(
        (f, key, level) => refine(f, splits[level] as Split, columnKeyOf[level]?.get(key) ?? key, names),
        figure,
      );
      return [[column.key, refinement(asked.figure, refined, asked.digits)]];
    }),
  );
}

/** By how much the rows of a column are most off its own whole. */
function worstOf(columnSheets: readonly ColumnSheet[], measure: Measure): Minor {
  const differences = columnSheets.flatMap(({ sheet, whole, column }) =>
    sheet && whole && column.is !== 'window' ? [whole[measure] - sheet.sum[measure]] : [],
  );
  return furthestOff(differences);
}
