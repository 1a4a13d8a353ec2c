import { wrong } from '@/contracts/problem';
import { refinement, type ScopeParams } from '@/contracts/scope';
import { readSplit } from '@/contracts/splits';
import { addBalance, type Balance, emptyBalance } from '@/core/balances';
import { CalendarError, calendar, parsePeriod, periodText, yearOf } from '@/core/calendar';
import { firstOfMonth, mondayOf } from '@/core/dates';
import { DIRECT, DIRECTLY_ON, type Figure, NONE, refine, type Split, splitsWindow, splitWhole } from '@/core/figure';
import type { Tree } from '@/core/ledger';
import { add, exponentOf, formatAmount, type Minor, parseAmount } from '@/core/money';
import { accountsIn, selectionText } from '@/core/selection';
import { dateText, monthText, periodName, weekText } from '@/core/sentence';
import { CHART, fromFirstMoved, type SheetParts, type SheetQuestion, type SheetRow, sheetOf, sheetOfBalances } from '@/core/sheet';
import { bandOf } from '@/core/sizes';
import { oneValue } from '@/core/values';
import { dictionaryNames, splitSums, TooManyRowsError, total } from '@/store/balances';
import { currencySums } from '@/store/lines';
import { mergedChart } from './accountBalances';
import { differenceAccount } from './addedAccounts';
import type { Context } from './context';
import { explainEmpty } from './explainEmpty';
import { type Asked, askedOf, resolveFigure } from './resolveFigure';
import { shown, tieOf } from './showAmounts';
import { translatedByEntity } from './translation';
import type { Viewer } from './viewer';
import { weighed } from './weigh';

/** Time members that are shown although nothing was booked in them. */
const FRAME_MAX = 400;

/** A figure broken down: rows, nested as asked, that add up to it, and the proof. */
export async function readSheet(ctx: Context, viewer: Viewer, params: ScopeParams & { by: string[]; across?: string; open?: string[] | undefined }) {
  const splits = params.by.map((b) => readSplit(b));
  const across = params.across === undefined ? null : readSplit(params.across, 'across');
  const all = across ? [...splits, across] : splits;
  const asked = await resolveFigure(ctx, viewer, params, { translates: params.open === undefined && all.every(translates) });
  const patient = await weighed(ctx, asked, all, params.heavy);
  const sheet = await splitFigure(patient, asked, splits, across);
  return params.open && across ? withOpened(patient, asked, sheet, splits, across, params.open) : sheet;
}

/** Splits whose members are translated by themselves: companies, and what the chart tells of an account. */
const translates = (split: Split): boolean => split.by === 'entity' || isOfAccounts(split);

const isOfAccounts = ({ by }: Split): boolean => by === 'account' || by === 'heading' || by === 'type';

/** An amount in the currency that it is of. */
const inOwn = (amount: number | null | undefined, currency: string): string | null =>
  amount === null || amount === undefined ? null : formatAmount(amount, exponentOf(currency));

type Sheet = Awaited<ReturnType<typeof splitFigure>>;

/** Some columns split further while the others stay: their parts stand before each, and add up to it in every row. */
async function withOpened(ctx: Context, outer: Asked, sheet: Sheet, splits: Split[], across: Split, texts: readonly string[]): Promise<Sheet> {
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
    const asked = { ...askedOf(figure, outer.known, outer.currency), entities: outer.entities };
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

const spliced = <Item>(list: readonly Item[], at: number, more: readonly Item[]): Item[] => [...list.slice(0, at), ...more, ...list.slice(at)];

/** Each row with the members from the outermost down to it. */
function withPaths<Row extends { depth: number; member: string }>(rows: readonly Row[]): { row: Row; path: string }[] {
  const path: string[] = [];
  return rows.map((row) => {
    path.length = row.depth;
    path.push(row.member);
    return { row, path: path.join('\n') };
  });
}

/**
 * A figure that was resolved, broken down.
 * @param known the figure's own total, where it is at hand, so that it need not be asked for again
 */
export async function splitFigure(ctx: Context, outer: Asked, splits: Split[], across: Split | null, known?: Balance) {
  checkSplits([...splits, ...(across ? [across] : [])], outer);
  const names = { chart: mergedChart(outer), trees: outer.known.catalogue.trees };
  const whole = [...splits, ...(across ? [across] : [])].reduce((f, s) => splitWhole(f, s, names), outer.figure);
  const asked = whole === outer.figure ? outer : { ...askedOf(whole, outer.known, outer.currency), entities: outer.entities };
  const { question, digits, figure } = asked;
  const sheetQuestion = sheetQuestionOf(asked, splits, across);
  const [sheet, value] = asked.translates
    ? await translatedSheet(ctx, asked, sheetQuestion)
    : await Promise.all([
        sheetOfSums(ctx, asked, sheetQuestion),
        known && whole === outer.figure ? known : total(ctx.read, question).then((found) => found.total),
      ]);
  // Lines of one transaction currency add up in it as well.
  const [first] = splits;
  const inCurrency = new Map(first?.by === 'currency' ? (await currencySums(ctx.read, question)).map((s) => [s.currency, s.amount]) : []);
  const nameOf = await namer(ctx, asked, [...splits, ...(across ? [across] : [])], sheet.rows, sheet.columns);
  // Of two splits of accounts each narrows the other: what a cell has in common is told with it.
  const crossing = across !== null && isOfAccounts(across) && splits.some(isOfAccounts);
  const accountsOf = (figureOfRow: Figure, column: string): { accounts?: string } => {
    const { accounts } = crossing ? refine(figureOfRow, across, column, names) : { accounts: null };
    return accounts ? { accounts: selectionText(accounts) } : {};
  };
  const refined = (row: SheetRow): Figure => row.path.reduce((f, key, level) => refine(f, splits[level] as Split, key, names), figure);
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
    rows: sheet.rows.map((row) => {
      const split = splits[row.depth] as Split;
      const figureOfRow = refined(row);
      return {
        member: shownKey(split, row.member),
        name: nameOf(split, row.member),
        depth: row.depth,
        refine: { ...refinement(outer.figure, figureOfRow, digits), ...(asked.translates ? { in: asked.currency } : {}) },
        ...(asked.translates ? { oneAccount: isOneAccount(figureOfRow, asked) } : {}),
        address: askedAddress(figureOfRow, asked),
        ...shown(row.balance, digits),
        ...(row.parts ? { tie: tieOf(row.balance, row.parts, digits) } : {}),
        ...(first?.by === 'currency' && row.depth === 0 ? { inCurrency: inOwn(inCurrency.get(row.member), row.member) } : {}),
        ...(across ? { cells: row.cells.map((c, i) => ({ ...shown(c, digits), ...accountsOf(figureOfRow, sheet.columns[i] as string) })) } : {}),
      };
    }),
    total: shown(value, digits),
    tie: tieOf(value, sheet.sum, digits),
    ...(value.count === 0 && sheet.rows.length === 0 ? { empty: explainEmpty(asked) } : {}),
  };
}

async function sheetOfSums(ctx: Context, { question }: Asked, sheetQuestion: SheetQuestion): Promise<SheetParts> {
  const { splits, across } = sheetQuestion;
  const sums = await splitSums(ctx.read, question, across ? [...splits, across] : splits).catch((error: unknown) => {
    if (error instanceof TooManyRowsError) throw wrong('by', `${error.message}; narrow the scope or split by less at once`);
    throw error;
  });
  return sheetOf(sums, sheetQuestion);
}

/** Books in several currencies, each company translated by itself (method.md §7); the whole is what the statements show. */
async function translatedSheet(ctx: Context, asked: Asked, { splits, across, trees }: SheetQuestion): Promise<[SheetParts, Balance]> {
  const types = new Map(mergedChart(asked).map((a) => [a.code, a.type]));
  const keyOf = ({ by }: Split, entity: string, account: string): string => (by === 'entity' ? entity : by === 'type' ? (types.get(account) ?? NONE) : account);
  const whole = emptyBalance();
  const leaves = [...(await translatedByEntity(ctx, asked))].flatMap(([entity, balances]) =>
    [...balances].map(([account, balance]) => {
      addBalance(whole, balance);
      return { keys: (across ? [...splits, across] : splits).map((s) => keyOf(s, entity, account)), balance };
    }),
  );
  return [sheetOfBalances(leaves, { splits, across, trees }), whole];
}

/** Whether nothing is left to split by account. */
const isOneAccount = ({ accounts }: Figure, asked: Asked): boolean =>
  accounts !== null && accountsIn(accounts, [...mergedChart(asked), differenceAccount]).size === 1;

/** More columns than this nobody reads side by side. */
const ACROSS_MAX = 60;

/** Balances by account for every member of a split, side by side; what falls under no member has a column of its own. */
export async function balancesAcross(ctx: Context, outer: Asked, split: Split) {
  checkSplits([split], outer);
  const names = { chart: mergedChart(outer), trees: outer.known.catalogue.trees };
  const whole = splitWhole(outer.figure, split, names);
  const asked = whole === outer.figure ? outer : { ...askedOf(whole, outer.known, outer.currency), entities: outer.entities };
  const splits: Split[] = [{ by: 'account' }];
  const sheet = sheetOf(await splitSums(ctx.read, asked.question, [...splits, split]), sheetQuestionOf(asked, splits, split));
  if (sheet.columns.length > ACROSS_MAX) throw wrong('across', `there are ${sheet.columns.length} columns, the most is ${ACROSS_MAX}; narrow the scope`);
  const nameOf = await namer(ctx, asked, [split], [], sheet.columns);
  return sheet.columns.map((key, i) => ({
    key: shownKey(split, key),
    name: nameOf(split, key),
    figure: refine(asked.figure, split, key, names),
    balances: new Map(sheet.rows.map((row) => [row.member, row.cells[i] as SheetRow['cells'][number]])),
  }));
}

const askedAddress = (figure: Figure, asked: Asked): string => askedOf(figure, asked.known, asked.currency).address;

function checkSplits(splits: Split[], { known }: Asked): void {
  for (const split of splits) {
    if (split.by !== 'dim') continue;
    const dimension = known.catalogue.dimensions.get(split.dim);
    if (!dimension) throw wrong('by', `there is no dimension “${split.dim}”; there are ${[...known.catalogue.dimensions.keys()].join(', ') || 'none'}`);
    if (split.under !== null && !dimension.tree.has(split.under)) {
      throw wrong('by', `there is no ${dimension.name.toLowerCase()} “${split.under}”`);
    }
  }
}

/** The chart of accounts as a tree; a parent that it does not have is none. */
function chartTree(asked: Asked): Tree {
  const chart = mergedChart(asked);
  const codes = new Set(chart.map((a) => a.code));
  return new Map(chart.map((a) => [a.code, { code: a.code, name: a.name, parent: a.parent !== null && codes.has(a.parent) ? a.parent : null }]));
}

function sheetQuestionOf(asked: Asked, splits: Split[], across: Split | null): SheetQuestion {
  const { figure, entities, question } = asked;
  const { window } = figure;
  const calendars = new Map(entities.map((e) => [e.code, calendar(e.calendar)]));
  return {
    splits,
    across,
    window,
    trees: [...splits, across].some((s) => s?.by === 'heading')
      ? new Map([...asked.known.catalogue.trees, [CHART, chartTree(asked)]])
      : asked.known.catalogue.trees,
    retained: new Map(question.entities.filter((e) => e.retained).map((e) => [e.entity.code, e.entity.retainedEarnings])),
    yearsOf(entity, split, key) {
      if (split.by === 'period') return [yearOf(Number(key)), yearOf(Number(key))];
      const cal = calendars.get(entity) as ReturnType<typeof calendar>;
      const refined = refine(figure, split, key, { chart: [], trees: new Map() }).window;
      return [cal.periodAt(refined.from as string).year, cal.periodAt(refined.to as string).year];
    },
    frame: (split) => frameOf(split, asked, [...calendars.values()]),
  };
}

/** All periods or months of the window up to the last that holds lines, so that a row of nothing shows as such. */
function frameOf(split: Split, { figure, entities, known }: Asked, calendars: ReturnType<typeof calendar>[]): string[] {
  const { window } = figure;
  const keys = new Set<string>();
  for (const [i, cal] of calendars.entries()) {
    const reach = known.extents.get(entities[i]?.code ?? '');
    if (!reach) continue;
    if (window.by === 'period' && split.by === 'period') {
      const last = Math.min(window.to, reach.lastPeriod);
      for (let year = yearOf(window.from); year <= yearOf(last) && keys.size < FRAME_MAX; year++) {
        for (const p of cal.periodsOf(year)) if (!p.adjustment && p.ordinal >= window.from && p.ordinal <= last) keys.add(String(p.ordinal));
      }
    }
    if (window.by === 'date' && split.by === 'month') {
      const last = (window.to < reach.lastDay ? window.to : reach.lastDay).slice(0, 7);
      for (let month = window.from.slice(0, 7); month <= last && keys.size < FRAME_MAX; month = monthAfter(month)) keys.add(month);
    }
  }
  return [...keys];
}

const monthAfter = (month: string): string => firstOfMonth(Number(month.slice(0, 4)), Number(month.slice(5)) + 1).slice(0, 7);

const shownKey = (split: Split, key: string): string => (split.by === 'period' ? periodText(Number(key)) : key);

async function namer(ctx: Context, asked: Asked, splits: Split[], rows: SheetRow[], columns: string[]) {
  const { known, entities } = asked;
  const chart = new Map(mergedChart(asked).map((a) => [a.code, a.name]));
  const dictionary = async (by: 'journal' | 'counterparty') =>
    splits.some((s) => s.by === by) ? dictionaryNames(ctx.read, by, [...new Set([...rows.flatMap((r) => r.path), ...columns])]) : new Map<string, string>();
  const [journals, counterparties] = await Promise.all([dictionary('journal'), dictionary('counterparty')]);
  const cal = calendar((entities[0] as Asked['entities'][number]).calendar);
  return (split: Split, key: string): string => {
    if (key === NONE) return split.by === 'dim' ? `(no ${known.catalogue.dimensions.get(split.dim)?.name.toLowerCase()})` : '(none)';
    switch (split.by) {
      case 'account':
      case 'heading':
        return chart.get(key) ?? key;
      case 'entity':
        return known.catalogue.entities.get(key)?.name ?? key;
      case 'period':
        return nameOfPeriod(cal, Number(key));
      case 'month':
        return monthText(key);
      case 'week':
        return `${weekText(key)}, from ${dateText(mondayOf(key))}`;
      case 'day':
        return dateText(key);
      case 'size':
        return bandText(key, asked.digits);
      case 'journal':
        return journals.get(key) ?? key;
      case 'counterparty':
        return counterparties.get(key) ?? key;
      case 'dim': {
        const tree = known.catalogue.trees.get(split.dim);
        if (key.startsWith(DIRECTLY_ON)) {
          const code = key.slice(DIRECTLY_ON.length);
          const name = tree?.get(code)?.name ?? code;
          return [...(tree?.values() ?? [])].some((m) => m.parent === code) ? `(directly on ${name})` : name;
        }
        if (key === DIRECT) return `(directly on ${tree?.get(split.under as string)?.name ?? split.under})`;
        return tree?.get(key)?.name ?? key;
      }
      default:
        return oneValue(key) ?? key;
    }
  };
}

/** "100 to under 1,000" */
function bandText(key: string, digits: number): string {
  const { from, to } = bandOf(key);
  const text = (minor: number): string => Math.round(minor / 10 ** digits).toLocaleString('en');
  if (from === null) return `under ${text((to ?? 0) + 1)}`;
  return to === null ? `${text(from)} and over` : `${text(from)} to under ${text(to + 1)}`;
}

function nameOfPeriod(cal: ReturnType<typeof calendar>, period: number): string {
  try {
    return periodName(cal.period(period));
  } catch (error) {
    if (error instanceof CalendarError) return periodText(period);
    throw error;
  }
}
