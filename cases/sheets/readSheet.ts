import { wrong } from '@/contracts/problem';
import { refinement, type ScopeParams } from '@/contracts/scope';
import { readSplit } from '@/contracts/splits';
import { addBalance, type Balance, emptyBalance } from '@/core/balances';
import { parsePeriod } from '@/core/calendar';
import { type Figure, refine, type Split, splitsWindow, splitWhole } from '@/core/figure';
import { add, exponentOf, formatAmount, type Minor } from '@/core/money';
import { accountsIn, selectionText } from '@/core/selection';
import {
  agreement,
  amountIn,
  asOne,
  type Cells,
  cellsOf,
  isNothing,
  type Proof,
  type Sheet,
  type SheetRow,
} from '@/core/sheet';
import { isOfAccounts, pathKey, type SplitRow } from '@/core/split';
import { currencySums } from '@/store/lines';
import type { Context } from '../asking/context';
import { explainEmpty } from '../asking/explainEmpty';
import { namer, shownKey } from '../asking/memberNames';
import { headOf, printerOf, shownCells, shownColumns, shownProof } from '../asking/present';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { resolveFigure } from '../asking/resolveFigure';
import type { Viewer } from '../asking/viewer';
import { figureTotal, mergedChart } from '../balances/accountBalances';
import { differenceAccount } from '../balances/addedAccounts';
import { carriesOpening, type Openings, withoutOpening } from '../balances/carriedOpening';
import { comparedSplit, type Measure } from '../balances/comparedSplit';
import { checkSplits, splitParts, wholeOf } from '../balances/splitParts';
import { rulesOf } from './marks';
import { pageOfSplit } from './pageOfSplit';

export interface SheetParams extends ScopeParams {
  by: string[];
  across?: string | undefined;
  open?: string[] | undefined;
  column?: string[] | undefined;
  compare?: Measure | undefined;
  openings?: Openings | undefined;
  first?: number | undefined;
  after?: string | undefined;
}

/** A figure broken down: rows, nested as asked, that add up to it, and the proof. */
export async function readSheet(ctx: Context, viewer: Viewer, params: SheetParams) {
  const sheet = await brokenDown(ctx, viewer, params);
  return presentSplit(sheet, (await rulesOf(ctx, sheet.asked)).material);
}

/** The same before it is printed. */
export async function brokenDown(ctx: Context, viewer: Viewer, params: SheetParams): Promise<BrokenDown> {
  const splits = params.by.map((b) => readSplit(b));
  const across = params.across === undefined ? null : readSplit(params.across, 'across');
  if (across && params.column)
    throw wrong('column', 'columns to compare with stand beside rows alone; leave out across, or these columns');
  const asked = await resolveFigure(ctx, viewer, params, { translates: params.open === undefined });
  const beside = params.column && { texts: params.column, measure: params.compare ?? 'movement' };
  const more = { ...(beside ? { beside } : {}), ...(params.openings ? { openings: params.openings } : {}) };
  const page = across ? null : await pageOfSplit(ctx, asked, splits, params);
  if (page) return pageOfSheet(ctx, asked, page, splits, more, params);
  if (params.after !== undefined)
    throw wrong('after', 'this split is answered whole, and has no further pages; leave out after');
  const sheet = await splitFigure(ctx, asked, splits, across, more);
  return params.open && across ? withOpened(ctx, asked, sheet, splits, across, params.open) : sheet;
}

/** A page of a split as a sheet of the whole figure: what is on other pages stands as one row. */
async function pageOfSheet(
  ctx: Context,
  asked: ResolvedFigure,
  { shown, others, next, inTime }: NonNullable<Awaited<ReturnType<typeof pageOfSplit>>>,
  splits: Split[],
  more: More,
  { openings }: SheetParams,
): Promise<BrokenDown> {
  const [whole, here, ...rest] = await Promise.all([asked, shown, ...others].map((figure) => figureTotal(ctx, figure)));
  if (!whole || !here) throw new TypeError('a page is of a whole');
  const elsewhere = emptyBalance();
  for (const balance of rest) addBalance(elsewhere, balance);
  // Openings of windows that follow one another are no parts of a whole.
  if (inTime) Object.assign(elsewhere, { opening: 0, roll: 0, closing: 0 });
  const sheet = await splitFigure(ctx, shown, splits, null, { ...more, known: here });
  const carried = (balance: Balance): Cells =>
    cellsOf(carriesOpening(asked.figure, asked, openings) ? balance : withoutOpening(balance));
  const both = emptyBalance();
  for (const balance of [here, elsewhere]) addBalance(both, balance);
  if (inTime) Object.assign(both, { opening: whole.opening, roll: whole.roll, closing: whole.closing });
  return {
    ...sheet,
    asked,
    whole: carried(whole),
    // The pages are held against the whole, each asked by itself, and the rows against their page.
    proofs: [...sheet.proofs, agreement(whole, both)],
    others: { cells: carried(elsewhere), next },
    empty: null,
  };
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
  let { across: columns, rows } = sheet;
  let off: Minor = 0;
  for (const text of texts) {
    const [member = '', by = ''] = text.split('|');
    const split = readSplit(by, 'open');
    const at = columns.findIndex((c) => c.member === member && c.within === null);
    if (at < 0) throw wrong('open', `the sheet has no column “${member}”`);
    const key = across.by === 'period' ? String(parsePeriod(member)) : member;
    const figure = refine(splitWhole(outer.figure, across, names), across, key, names);
    const asked = outer.narrowed(figure);
    checkSplits([split], asked);
    const inner = fromFirstMove(await splitFigure(ctx, asked, splits, split));
    const parts = new Map(withPaths(inner.rows).map(({ row, path }) => [path, row]));
    const parent = columns[at] as BrokenDown['across'][number];
    const none = inner.across.map((): CrossCell => ({ cells: cellsOf(emptyBalance()) }));
    rows = withPaths(rows).map(({ row, path }) => {
      const cells = parts.get(path)?.across ?? none;
      const sum = cells.reduce((all, c) => add(all, amountIn(c.cells, 'movement')), 0);
      const whole = amountIn(row.across?.[at]?.cells ?? {}, 'movement');
      if (sum !== whole) off = add(sum, -whole);
      return { ...row, across: spliced(row.across ?? [], at, cells) };
    });
    const opened = inner.across.map((c) => ({ ...c, within: member, refine: { ...parent.refine, ...c.refine } }));
    columns = spliced(columns, at, opened);
  }
  return { ...sheet, across: columns, rows, proofs: off === 0 ? sheet.proofs : [...sheet.proofs, { ok: false, off }] };
}

/** Without the first columns in which nothing moved: only the opening balance was made there. */
function fromFirstMove(sheet: BrokenDown): BrokenDown {
  const first = sheet.across.findIndex(({ cells }) => !isNothing(cells.count ?? null));
  if (first <= 0) return sheet;
  return {
    ...sheet,
    across: sheet.across.slice(first),
    rows: sheet.rows.map((row) => ({ ...row, across: row.across?.slice(first) })),
  };
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
  beside?: { texts: readonly string[]; measure: Measure };
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
  const { digits, figure } = asked;
  const [sheet, value] = await splitParts(ctx, asked, splits, across, asked === outer ? known : undefined);
  const compared = beside && (await comparedSplit(ctx, asked, splits, [sheet, value], beside.texts, beside.measure));
  const rows: (SplitRow & Partial<Pick<NonNullable<typeof compared>['rows'][number], 'values' | 'scopes'>>)[] =
    compared?.rows ?? sheet.rows;
  const carried = (of: Figure, balance: Balance): Balance =>
    carriesOpening(of, asked, openings) ? balance : withoutOpening(balance);
  // Lines of one transaction currency add up in it as well.
  const [first] = splits;
  const inCurrency = new Map(
    first?.by === 'currency' ? (await sumsInCurrency(ctx, asked)).map((s) => [s.currency, s.amount]) : [],
  );
  const nameOf = await namer(ctx, asked, all, rows, sheet.columns);
  // Of two splits of accounts each narrows the other: what a cell has in common is told with it.
  const crossing = across !== null && isOfAccounts(across) && splits.some(isOfAccounts);
  const accountsOf = (figureOfRow: Figure, column: string): { accounts?: string } => {
    const { accounts } = crossing ? refine(figureOfRow, across, column, names) : { accounts: null };
    return accounts ? { accounts: selectionText(accounts) } : {};
  };
  const refined = (row: SplitRow): Figure =>
    row.path.reduce((f, key, level) => refine(f, splits[level] as Split, key, names), figure);
  const off = compared?.off ?? 0;
  const proof = agreement(value, sheet.sum);
  return {
    asked,
    additive: splits.some((s) => splitsWindow(figure.window, s)) ? ADDITIVE_IN_TIME : ADDITIVE,
    columns: compared ? compared.columns : [],
    across: sheet.columns.map((member, i) => {
      const total = emptyBalance();
      for (const row of sheet.rows) if (row.depth === 0) addBalance(total, row.cells[i] as Balance);
      return {
        member: shownKey(across as Split, member),
        name: nameOf(across as Split, member),
        within: null,
        refine: refinement(figure, refine(figure, across as Split, member, names), digits),
        cells: cellsOf(total),
      };
    }),
    rows: rows.map((row) => {
      const split = splits[row.depth] as Split;
      const figureOfRow = refined(row);
      return {
        key: pathKey(row.path),
        member: shownKey(split, row.member),
        label: nameOf(split, row.member),
        depth: row.depth,
        refine: {
          ...refinement(outer.figure, figureOfRow, digits),
          ...(asked.translates ? { in: asked.currency } : {}),
        },
        oneAccount: asked.translates ? isOneAccount(figureOfRow, asked) : undefined,
        address: asked.addressOf(figureOfRow),
        cells: { ...cellsOf(carried(figureOfRow, row.balance)), ...row.values },
        proof: row.parts && agreement(row.balance, row.parts),
        scopes: row.scopes,
        own:
          first?.by === 'currency' && row.depth === 0
            ? { currency: row.member, amount: inCurrency.get(row.member) ?? null }
            : undefined,
        across: across
          ? row.cells.map((balance, i) => ({
              cells: cellsOf(balance),
              ...accountsOf(figureOfRow, sheet.columns[i] as string),
            }))
          : undefined,
      };
    }),
    whole: { ...cellsOf(carried(figure, value)), ...compared?.values },
    // The rows are held against the figure asked apart from them, each column beside them against its own.
    proofs: off === 0 ? [proof] : [proof, { ok: false, off }],
    empty: value.count === 0 && rows.length === 0 ? explainEmpty(asked) : null,
  };
}

async function sumsInCurrency(ctx: Context, asked: ResolvedFigure) {
  const { db, question } = await asked.ask(ctx, [{ by: 'currency' }]);
  return currencySums(db, question);
}

const ADDITIVE = ['opening', 'debit', 'credit', 'movement', 'roll', 'closing', 'count'];
/** Openings and closings of periods follow one another, and are no parts of a whole. */
const ADDITIVE_IN_TIME = ['debit', 'credit', 'movement', 'count'];

/** A cell of a crosstab: what its balance is made of, with the accounts that it has in common where both splits are of accounts. */
interface CrossCell {
  cells: Cells;
  accounts?: string;
}

type Refinement = Record<string, string | string[]>;
type Compared = Awaited<ReturnType<typeof comparedSplit>>;

interface BrokenDownRow extends SheetRow {
  member: string;
  refine: Refinement;
  oneAccount: boolean | undefined;
  address: string;
  /** Of a row with rows below it: whether they add up to it. */
  proof: Proof | null;
  scopes: Compared['rows'][number]['scopes'] | undefined;
  /** What it adds up to in its own transaction currency. */
  own: { currency: string; amount: Minor | null } | undefined;
  across: CrossCell[] | undefined;
}

/** A figure broken down, before it is printed. */
export interface BrokenDown extends Sheet<BrokenDownRow> {
  asked: ResolvedFigure;
  /** Measures in which the rows add up to the total; the others follow one another in time. */
  additive: string[];
  columns: Compared['columns'];
  whole: Cells;
  /** Members of a further split, side by side. */
  across: {
    member: string;
    name: string;
    /** The column that it is a part of, where one was split further. */
    within: string | null;
    /** What narrows a row to its cell of this column, put beside the row’s own refine. */
    refine: Refinement;
    cells: Cells;
  }[];
  empty: ReturnType<typeof explainEmpty> | null;
  /** Of a page of very many rows: what the rows of other pages come to, and the member that the next page begins after. */
  others?: { cells: Cells; next: string | null };
}

/** Measures of which a row, or a cell of a crosstab, may be above what is material. */
const WEIGHED = ['movement', 'closing'] as const;

/** A figure broken down, as it is answered. @param material from which its rows are marked; null: none is */
function presentSplit(
  { asked, additive, columns, across, rows, whole, proofs, empty, others }: BrokenDown,
  material: Minor | null,
) {
  const { digits } = asked;
  const beside = printerOf(columns, digits);
  const compares = columns.length > 0;
  const weighed = ({ cells }: { cells: Cells }) => {
    const above = material === null ? [] : WEIGHED.filter((measure) => Math.abs(amountIn(cells, measure)) >= material);
    return above.length > 0 ? { above } : {};
  };
  return {
    ...headOf(asked),
    additive,
    ...(material === null ? {} : { material: formatAmount(material, digits) }),
    columns: across.map(({ cells, ...column }) => ({ ...column, total: shownCells(cells, digits) })),
    ...(compares ? { compared: shownColumns(columns), values: beside(whole) } : {}),
    rows: rows.map((row) => ({
      member: row.member,
      name: row.label,
      depth: row.depth,
      refine: row.refine,
      ...(row.oneAccount === undefined ? {} : { oneAccount: row.oneAccount }),
      address: row.address,
      ...shownCells(row.cells, digits),
      ...weighed(row),
      ...(row.proof ? { tie: shownProof(row.proof, digits) } : {}),
      ...(compares ? { values: beside(row.cells) } : {}),
      ...(row.scopes ? { scopes: row.scopes } : {}),
      ...(row.own
        ? { inCurrency: row.own.amount === null ? null : formatAmount(row.own.amount, exponentOf(row.own.currency)) }
        : {}),
      ...(row.across
        ? {
            cells: row.across.map(({ cells, ...accounts }) => ({
              ...shownCells(cells, digits),
              ...accounts,
              ...weighed({ cells }),
            })),
          }
        : {}),
    })),
    total: shownCells(whole, digits),
    ...(others ? { others: { ...shownCells(others.cells, digits), next: others.next } } : {}),
    tie: shownProof(asOne(proofs), digits),
    ...(empty ? { empty } : {}),
  };
}

/** Whether nothing is left to split by account. */
const isOneAccount = ({ accounts }: Figure, asked: ResolvedFigure): boolean =>
  accounts !== null && accountsIn(accounts, [...mergedChart(asked), differenceAccount]).size === 1;
