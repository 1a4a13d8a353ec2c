import { wrong } from '@/contracts/problem';
import { refinement, type ScopeParams } from '@/contracts/scope';
import { readSplit } from '@/contracts/splits';
import { addBalance, type Balance, emptyBalance } from '@/core/balances';
import { parsePeriod } from '@/core/calendar';
import { type Figure, refine, type Split, splitsWindow, splitWhole } from '@/core/figure';
import { add, exponentOf, formatAmount, type Minor, parseAmount } from '@/core/money';
import { accountsIn, selectionText } from '@/core/selection';
import { fromFirstMoved, type SheetRow } from '@/core/sheet';
import { currencySums } from '@/store/lines';
import type { Context } from '../asking/context';
import { explainEmpty } from '../asking/explainEmpty';
import { namer, shownKey } from '../asking/memberNames';
import { shown, tieOf } from '../asking/present';
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
export async function readSheet(ctx: Context, viewer: Viewer, params: SheetParams) {
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

/** An amount in the currency that it is of. */
const inOwn = (amount: number | null | undefined, currency: string): string | null =>
  amount === null || amount === undefined ? null : formatAmount(amount, exponentOf(currency));

type Sheet = Awaited<ReturnType<typeof splitFigure>>;

/** Some columns split further while the others stay: their parts are before each, and add up to it in every row. */
async function withOpened(
  ctx: Context,
  outer: ResolvedFigure,
  sheet: Sheet,
  splits: Split[],
  across: Split,
  texts: readonly string[],
): Promise<Sheet> {
  const names = { chart: mergedChart(outer), trees: outer.known.catalogue.trees };
  let { columns, rows } = sheet;
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
    const inner = fromFirstMoved(await splitFigure(ctx, asked, splits, split));
    const parts = new Map(withPaths(inner.rows).map(({ row, path }) => [path, row]));
    const parent = columns[at] as Sheet['columns'][number];
    const none = inner.columns.map(() => shown(emptyBalance(), outer.digits));
    rows = withPaths(rows).map(({ row, path }) => {
      const cells = parts.get(path)?.cells ?? none;
      const sum = cells.reduce((all, c) => add(all, parseAmount(c.movement, outer.digits)), 0);
      const whole = row.cells?.[at] ? parseAmount(row.cells[at].movement, outer.digits) : 0;
      if (sum !== whole) off = add(sum, -whole);
      return { ...row, cells: spliced(row.cells ?? [], at, cells) };
    });
    const opened = inner.columns.map((c) => ({ ...c, within: member, refine: { ...parent.refine, ...c.refine } }));
    columns = spliced(columns, at, opened);
  }
  const tie = off === 0 ? sheet.tie : { ok: false, offBy: formatAmount(off, outer.digits) };
  return { ...sheet, columns, rows, tie };
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

/** A figure that was resolved, broken down. */
export async function splitFigure(
  ctx: Context,
  outer: ResolvedFigure,
  splits: Split[],
  across: Split | null,
  { known, beside, openings }: More = {},
) {
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
    sentence: asked.sentence,
    parts: asked.parts,
    address: asked.address,
    currency: asked.currency,
    translated: asked.translates,
    load: question.asOf,
    /** Measures in which the rows add up to the total; the others follow one another in time. */
    additive: splits.some((s) => splitsWindow(figure.window, s))
      ? ['debit', 'credit', 'movement', 'count']
      : ['opening', 'debit', 'credit', 'movement', 'roll', 'closing', 'count'],
    columns: sheet.columns.map((member, i) => {
      const sum = emptyBalance();
      for (const row of sheet.rows) if (row.depth === 0) addBalance(sum, row.cells[i] as Balance);
      return {
        member: shownKey(across as Split, member),
        name: nameOf(across as Split, member),
        /** The column that it is a part of, where one was split further. */
        within: null as string | null,
        /** What narrows a row to its cell of this column, put beside the row’s own refine. */
        refine: refinement(figure, refine(figure, across as Split, member, names), digits),
        total: shown(sum, digits),
      };
    }),
    ...(compared ? { compared: compared.columns, values: compared.values } : {}),
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
        ...(asked.translates ? { oneAccount: isOneAccount(figureOfRow, asked) } : {}),
        address: asked.addressOf(figureOfRow),
        ...shown(carriesOpening(figureOfRow, asked, openings) ? row.balance : withoutOpening(row.balance), digits),
        ...(row.parts ? { tie: tieOf(row.balance, row.parts, digits) } : {}),
        ...(row.values ? { values: row.values } : {}),
        ...(row.scopes ? { scopes: row.scopes } : {}),
        ...(first?.by === 'currency' && row.depth === 0
          ? { inCurrency: inOwn(inCurrency.get(row.member), row.member) }
          : {}),
        ...(across
          ? {
              cells: row.cells.map((c, i) => ({
                ...shown(c, digits),
                ...accountsOf(figureOfRow, sheet.columns[i] as string),
              })),
            }
          : {}),
      };
    }),
    total: shown(carriesOpening(figure, asked, openings) ? value : withoutOpening(value), digits),
    tie:
      compared && compared.off !== 0
        ? { ok: false, offBy: formatAmount(compared.off, digits) }
        : tieOf(value, sheet.sum, digits),
    ...(value.count === 0 && rows.length === 0 ? { empty: explainEmpty(asked) } : {}),
  };
}

/** Whether nothing is left to split by account. */
const isOneAccount = ({ accounts }: Figure, asked: ResolvedFigure): boolean =>
  accounts !== null && accountsIn(accounts, [...mergedChart(asked), differenceAccount]).size === 1;
