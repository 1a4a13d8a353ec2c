import { wrong } from '@/contracts/problem';
import { refinement, type ScopeParams } from '@/contracts/scope';
import { readSplit } from '@/contracts/splits';
import { addBalance, type Balance, emptyBalance } from '@/core/balances';
import { parsePeriod } from '@/core/calendar';
import { type Figure, refine, type Split, splitsWindow, splitWhole } from '@/core/figure';
import { add, exponentOf, formatAmount, type Minor } from '@/core/money';
import { accountsIn, selectionText } from '@/core/selection';
import { fromFirstMoved, type SheetRow } from '@/core/sheet';
import { currencySums } from '@/store/lines';
import type { Context } from '../asking/context';
import { explainEmpty } from '../asking/explainEmpty';
import { namer, shownKey } from '../asking/memberNames';
import { headOf, shown, tieOf } from '../asking/present';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { resolveFigure } from '../asking/resolveFigure';
import type { Viewer } from '../asking/viewer';
import { refuseIfHeavy } from '../asking/weigh';
import { mergedChart } from '../balances/accountBalances';
import { differenceAccount } from '../balances/addedAccounts';
import { carriesOpening, type Openings, withoutOpening } from '../balances/carriedOpening';
import { comparedSplit, type Measure } from '../balances/comparedSplit';
import { checkSplits, isOfAccounts, splitParts, translates, wholeOf } from '../balances/splitParts';

export interface SheetParams extends ScopeParams {
  by: string[];
  across?: string | undefined;
  open?: string[] | undefined;
  column?: string[] | undefined;
  compare?: Measure | undefined;
  openings?: Openings | undefined;
}

/** A figure broken down: rows, nested as asked, that add up to it, and the proof. */
export const readSheet = async (ctx: Context, viewer: Viewer, params: SheetParams) =>
  presentSplit(await brokenDown(ctx, viewer, params));

/** The same before it is printed. */
export async function brokenDown(ctx: Context, viewer: Viewer, params: SheetParams): Promise<BrokenDown> {
  const splits = params.by.map((b) => readSplit(b));
  const across = params.across === undefined ? null : readSplit(params.across, 'across');
  if (across && params.column)
    throw wrong('column', 'columns to compare with stand beside rows alone; leave out across, or these columns');
  const all = across ? [...splits, across] : splits;
  const asked = await resolveFigure(ctx, viewer, params, {
    translates: params.open === undefined && all.every(translates),
  });
  const patient = await refuseIfHeavy(ctx, asked, all, params.heavy);
  const beside = params.column && { texts: params.column, measure: params.compare ?? 'movement', heavy: params.heavy };
  const sheet = await splitFigure(patient, asked, splits, across, {
    ...(beside ? { beside } : {}),
    ...(params.openings ? { openings: params.openings } : {}),
  });
  return params.open && across ? withOpened(patient, asked, sheet, splits, across, params.open) : sheet;
}

/** Some columns split further while the others stay: their parts are before each, and add up to it in every row. */
async function withOpened(
  ctx: Context,
  outer: ResolvedFigure,
  sheet: BrokenDown,
  splits: Split[],
  across: Split,
  texts: readonly string[],
): Promise<BrokenDown> {
  const names = { chart: mergedChart(outer), trees: outer.known.catalogue.trees };
  let { columns, rows, off } = sheet;
  for (const text of texts) {
    const [member = '', by = ''] = text.split('|');
    const split = readSplit(by, 'open');
    const at = columns.findIndex((c) => c.member === member && c.within === null);
    if (at < 0) throw wrong('open', `the sheet has no column “${member}”`);
    const key = across.by === 'period' ? String(parsePeriod(member)) : member;
    const figure = refine(splitWhole(outer.figure, across, names), across, key, names);
    const asked = outer.narrowed(figure);
    checkSplits([split], asked);
    const inner = fromFirstMoved(await splitFigure(ctx, asked, splits, split));
    const parts = new Map(withPaths(inner.rows).map(({ row, path }) => [path, row]));
    const parent = columns[at] as BrokenDown['columns'][number];
    const none = inner.columns.map((): Cell => ({ balance: emptyBalance() }));
    rows = withPaths(rows).map(({ row, path }) => {
      const cells = parts.get(path)?.cells ?? none;
      const sum = cells.reduce((all, c) => add(all, c.balance.movement), 0);
      const whole = row.cells?.[at]?.balance.movement ?? 0;
      if (sum !== whole) off = add(sum, -whole);
      return { ...row, cells: spliced(row.cells ?? [], at, cells) };
    });
    const opened = inner.columns.map((c) => ({ ...c, within: member, refine: { ...parent.refine, ...c.refine } }));
    columns = spliced(columns, at, opened);
  }
  return { ...sheet, columns, rows, off };
}

const spliced = <Item>(list: readonly Item[], at: number, more: readonly Item[]): Item[] => [
  ...list.slice(0, at),
  ...more,
  ...list.slice(at),
];

/** Each row with the members from the outermost down to it. */
function withPaths<Row extends { depth: number; member: string }>(rows: readonly Row[]): { row: Row; path: string }[] {
  const path: string[] = [];
  return rows.map((row) => {
    path.length = row.depth;
    path.push(row.member);
    return { row, path: path.join('\n') };
  });
}

interface More {
  /** The figure's own value, where it is at hand, so that it need not be asked for again. */
  known?: Balance;
  /** Whose opening balances are carried. */
  openings?: Openings;
  /** Columns to compare with. */
  beside?: { texts: readonly string[]; measure: Measure; heavy: 'run' | undefined };
}

/** A figure that was resolved, broken down; all amounts in minor units. */
export async function splitFigure(
  ctx: Context,
  outer: ResolvedFigure,
  splits: Split[],
  across: Split | null,
  { known, beside, openings }: More = {},
): Promise<BrokenDown> {
  const all = [...splits, ...(across ? [across] : [])];
  checkSplits(all, outer);
  const names = { chart: mergedChart(outer), trees: outer.known.catalogue.trees };
  const asked = wholeOf(outer, all);
  const { question, digits, figure } = asked;
  const [sheet, value] = await splitParts(ctx, asked, splits, across, asked === outer ? known : undefined);
  const compared =
    beside && (await comparedSplit(ctx, asked, splits, [sheet, value], beside.texts, beside.measure, beside.heavy));
  const rows: (SheetRow & Partial<Pick<NonNullable<typeof compared>['rows'][number], 'values' | 'scopes'>>)[] =
    compared?.rows ?? sheet.rows;
  // Lines of one transaction currency add up in it as well.
  const [first] = splits;
  const inCurrency = new Map(
    first?.by === 'currency' ? (await currencySums(ctx.read, question)).map((s) => [s.currency, s.amount]) : [],
  );
  const nameOf = await namer(ctx, asked, all, rows, sheet.columns);
  // Of two splits of accounts each narrows the other: what a cell has in common is told with it.
  const crossing = across !== null && isOfAccounts(across) && splits.some(isOfAccounts);
  const accountsOf = (figureOfRow: Figure, column: string): { accounts?: string } => {
    const { accounts } = crossing ? refine(figureOfRow, across, column, names) : { accounts: null };
    return accounts ? { accounts: selectionText(accounts) } : {};
  };
  const refined = (row: SheetRow): Figure =>
    row.path.reduce((f, key, level) => refine(f, splits[level] as Split, key, names), figure);
  return {
    asked,
    additive: splits.some((s) => splitsWindow(figure.window, s)) ? ADDITIVE_IN_TIME : ADDITIVE,
    columns: sheet.columns.map((member, i) => {
      const total = emptyBalance();
      for (const row of sheet.rows) if (row.depth === 0) addBalance(total, row.cells[i] as Balance);
      return {
        member: shownKey(across as Split, member),
        name: nameOf(across as Split, member),
        within: null,
        refine: refinement(figure, refine(figure, across as Split, member, names), digits),
        total,
      };
    }),
    compared: compared || null,
    rows: rows.map((row) => {
      const split = splits[row.depth] as Split;
      const figureOfRow = refined(row);
      return {
        member: shownKey(split, row.member),
        name: nameOf(split, row.member),
        depth: row.depth,
        refine: {
          ...refinement(outer.figure, figureOfRow, digits),
          ...(asked.translates ? { in: asked.currency } : {}),
        },
        oneAccount: asked.translates ? isOneAccount(figureOfRow, asked) : undefined,
        address: asked.addressOf(figureOfRow),
        balance: carriesOpening(figureOfRow, asked, openings) ? row.balance : withoutOpening(row.balance),
        tie: row.parts && tieOf(row.balance, row.parts, digits),
        values: row.values,
        scopes: row.scopes,
        own:
          first?.by === 'currency' && row.depth === 0
            ? { currency: row.member, amount: inCurrency.get(row.member) ?? null }
            : undefined,
        cells: across
          ? row.cells.map((balance, i) => ({ balance, ...accountsOf(figureOfRow, sheet.columns[i] as string) }))
          : undefined,
      };
    }),
    total: carriesOpening(figure, asked, openings) ? value : withoutOpening(value),
    tie: tieOf(value, sheet.sum, digits),
    off: compared?.off ?? 0,
    empty: value.count === 0 && rows.length === 0 ? explainEmpty(asked) : null,
  };
}

const ADDITIVE = ['opening', 'debit', 'credit', 'movement', 'roll', 'closing', 'count'];
/** Openings and closings of periods follow one another, and are no parts of a whole. */
const ADDITIVE_IN_TIME = ['debit', 'credit', 'movement', 'count'];

/** A cell of a crosstab, with the accounts that it has in common where both splits are of accounts. */
interface Cell {
  balance: Balance;
  accounts?: string;
}

type Refinement = Record<string, string | string[]>;
type Compared = Awaited<ReturnType<typeof comparedSplit>>;

/** A figure broken down, before it is printed. */
export interface BrokenDown {
  asked: ResolvedFigure;
  /** Measures in which the rows add up to the total; the others follow one another in time. */
  additive: string[];
  columns: {
    member: string;
    name: string;
    /** The column that it is a part of, where one was split further. */
    within: string | null;
    /** What narrows a row to its cell of this column, put beside the row’s own refine. */
    refine: Refinement;
    total: Balance;
  }[];
  compared: Compared | null;
  rows: {
    member: string;
    name: string;
    depth: number;
    refine: Refinement;
    oneAccount: boolean | undefined;
    address: string;
    balance: Balance;
    /** Of a row with rows below it: whether they add up to it. */
    tie: ReturnType<typeof tieOf> | null;
    values: Compared['rows'][number]['values'] | undefined;
    scopes: Compared['rows'][number]['scopes'] | undefined;
    /** What it adds up to in its own transaction currency. */
    own: { currency: string; amount: Minor | null } | undefined;
    cells: Cell[] | undefined;
  }[];
  total: Balance;
  tie: ReturnType<typeof tieOf>;
  /** By how much columns beside, or columns opened, are off; 0: they tie. */
  off: Minor;
  empty: ReturnType<typeof explainEmpty> | null;
}

/** A figure broken down, as it is answered. */
function presentSplit({ asked, additive, columns, compared, rows, total, tie, off, empty }: BrokenDown) {
  const { digits } = asked;
  return {
    ...headOf(asked),
    additive,
    columns: columns.map((column) => ({ ...column, total: shown(column.total, digits) })),
    ...(compared ? { compared: compared.columns, values: compared.values } : {}),
    rows: rows.map((row) => ({
      member: row.member,
      name: row.name,
      depth: row.depth,
      refine: row.refine,
      ...(row.oneAccount === undefined ? {} : { oneAccount: row.oneAccount }),
      address: row.address,
      ...shown(row.balance, digits),
      ...(row.tie ? { tie: row.tie } : {}),
      ...(row.values ? { values: row.values } : {}),
      ...(row.scopes ? { scopes: row.scopes } : {}),
      ...(row.own
        ? { inCurrency: row.own.amount === null ? null : formatAmount(row.own.amount, exponentOf(row.own.currency)) }
        : {}),
      ...(row.cells
        ? { cells: row.cells.map(({ balance, ...accounts }) => ({ ...shown(balance, digits), ...accounts })) }
        : {}),
    })),
    total: shown(total, digits),
    tie: off === 0 ? tie : { ok: false, offBy: formatAmount(off, digits) },
    ...(empty ? { empty } : {}),
  };
}

/** Whether nothing is left to split by account. */
const isOneAccount = ({ accounts }: Figure, asked: ResolvedFigure): boolean =>
  accounts !== null && accountsIn(accounts, [...mergedChart(asked), differenceAccount]).size === 1;
