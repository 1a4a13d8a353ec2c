import { wrong } from '@/contracts/problem';
import { readSplit } from '@/contracts/splits';
import type { Traced } from '@/contracts/traced';
import { calendar, type Ordinal, ordinal, periodText, yearOf } from '@/core/calendar';
import type { Split, Window } from '@/core/figure';
import { add, type Minor } from '@/core/money';
import {
  addCommitment,
  addPosition,
  addToPosition,
  addToWindow,
  emptyPosition,
  type Position,
  type TimeOfSum,
} from '@/core/position';
import { parseSelection } from '@/core/selection';
import { splitSums } from '@/store/balances';
import type { PlannedColumn } from '@/store/budgets';
import type { CatalogueDimension } from '@/store/catalogue';
import { commitmentSums } from '@/store/commitments';
import { equityByDay, memberSumsUpTo } from '@/store/positions';
import type { Context } from '../asking/context';
import { asBooked, type ResolvedFigure } from '../asking/resolvedFigure';
import { requireWhole, type Viewer } from '../asking/viewer';
import { figureTotal } from '../balances/accountBalances';
import { lastDayOf } from '../balances/orderedBalances';
import { narrowedTo } from '../balances/plannedBalances';
import { ratesFor, translator, withoutRate } from '../balances/translation';
import { positionOfAccounts } from './cashPosition';
import { cellsOf, POSITION_COLUMNS, positionGuard, positionSheet, ROW, totalRow } from './positionSheet';
import type { StatementRow, StatementSheet } from './sheet';

/** All that a position is made of. */
const RESULTS = 'type income, type expense, type equity';
/** What of it is not what moved. */
const MEASURE_OF: Partial<Record<keyof Position, Traced>> = { opening: 'opening', current: 'closing' };

/**
 * Fund or project position: each member of a dimension with what came in, what went out, and what is left after orders;
 * or the same of each cash account. Who sees a part of the books sees what is theirs of it.
 */
export async function position(
  ctx: Context,
  viewer: Viewer,
  asked: ResolvedFigure,
  by: string | undefined,
): Promise<StatementSheet> {
  const { figure, digits } = asked;
  const split = by === undefined ? null : readSplit(by);
  if (figure.window.by !== 'period')
    throw wrong('from', 'a position is of whole periods; choose periods instead of dates');
  const other = figure.where.find((c) => c.on !== 'dim');
  if (other) throw wrong(other.on, 'a position is of companies and members of dimensions; remove the other clauses');
  if (split?.by === 'account') return positionOfAccounts(ctx, asked);
  const codes = [...asked.known.catalogue.dimensions.keys()];
  const dimension = asked.known.catalogue.dimensions.get(
    split?.by === 'dim' ? split.dim : (codes.find((c) => /fund|project/i.test(c)) ?? codes[0] ?? ''),
  );
  if (!dimension || (split && (split.by !== 'dim' || split.under !== null || split.level !== undefined)))
    throw wrong(
      'by',
      `a position is of cash accounts (account) or of the members of a dimension: ${codes.map((c) => `dim:${c}`).join(', ') || 'none is loaded'}`,
    );
  if (figure.accounts && viewer.accounts === null)
    throw wrong('accounts', 'a position by members is of all accounts; remove the accounts, or ask by=account');
  asBooked(asked, 'A position');
  const own = asked.translates
    ? await translatedPositions(ctx, asked, dimension)
    : await bookedPositions(ctx, asked, dimension);
  const of = (member: number): Position => positionIn(own, member);
  const narrowing = narrowedTo(figure, asked) ?? new Map<number, number[]>();
  const rates = await ratesFor(ctx, asked);
  for (const e of asked.books) {
    const { at } = translator(rates, e, asked.currency);
    const day = lastDayOf(asked, e.entity.code);
    for (const due of ['now', 'later'] as const)
      for (const c of await commitmentSums(ctx.read, {
        entity: e.entity.id,
        asOf: asked.asOf,
        members: narrowing,
        accounts: e.own,
        due: { is: due, day },
        columns: [`d${dimension.slot}` as PlannedColumn],
      })) {
        const amount = c.amount as number;
        const inOurs = e.entity.currency === asked.currency ? amount : at(amount, day);
        addCommitment(of(c[`d${dimension.slot}`] as number), inOurs, due === 'later');
      }
  }
  const whole = emptyPosition();
  for (const p of own.values()) addPosition(whole, p);
  const rows: StatementRow[] = [];
  const walk = (under: string | null, depth: number): Position => {
    const sum = emptyPosition();
    for (const m of dimension.tree.values()) {
      if ((m.parent !== null && dimension.tree.has(m.parent) ? m.parent : null) !== under) continue;
      const row: StatementRow = {
        ...{ ...ROW, key: m.code, label: m.name, kind: 'accounts', depth },
        cells: {},
        refine: { [`dim.${dimension.code}`]: m.code },
      };
      const at = rows.push(row) - 1;
      const all = walk(m.code, depth + 1);
      addPosition(all, own.get(dimension.members.get(m.code) ?? -1) ?? emptyPosition());
      addPosition(sum, all);
      // Only members that hold something.
      if (Object.values(all).every((v) => v === 0)) rows.splice(at);
      else row.cells = cellsOf(all);
    }
    return sum;
  };
  walk(null, 0);
  const none = own.get(0);
  if (none && Object.values(none).some((v) => v !== 0)) {
    rows.push({
      ...{ ...ROW, key: '~none', label: `no ${dimension.name.toLowerCase()}`, kind: 'accounts' },
      cells: cellsOf(none),
      refine: { [`dim.${dimension.code}`]: '~none' },
    });
  }
  rows.push(totalRow(whole, {}));
  const off = await offFromBooks(ctx, asked, whole);
  const window = figure.window as Extract<Window, { by: 'period' }>;
  const toDate = { from: periodText(ordinal(yearOf(window.to), 1)), to: periodText(window.to) };
  const scopeOf = (key: keyof Position): Record<string, string> => {
    if (key === 'received' || key === 'spent')
      return { accounts: key === 'received' ? 'type income' : 'type expense', ...toDate };
    if (key === 'receivedNow' || key === 'spentNow')
      return { accounts: key === 'receivedNow' ? 'type income' : 'type expense' };
    if (key === 'adjustments') return { accounts: 'type equity', ...toDate };
    if (key === 'opening' || key === 'current') return { accounts: RESULTS, ...toDate };
    return {};
  };
  return positionSheet(
    { name: dimension.name.toLowerCase(), by: `dim:${dimension.code}` },
    POSITION_COLUMNS.map((column) => ({ ...column, scope: scopeOf(column.key), measure: MEASURE_OF[column.key] })),
    rows,
    off === null
      ? []
      : [positionGuard(off, 'members', 'hold what income, expense and equity have come to in the books', digits)],
  );
}

const positionIn = (own: Map<number, Position>, member: number): Position => {
  const held = own.get(member) ?? emptyPosition();
  own.set(member, held);
  return held;
};

/** What came in and went out by member, in the currency of the books: of the year so far, and of the window in it. */
async function bookedPositions(
  ctx: Context,
  asked: ResolvedFigure,
  dimension: CatalogueDimension,
): Promise<Map<number, Position>> {
  const own = new Map<number, Position>();
  const split: Split = { by: 'dim', dim: dimension.code, under: null };
  const results = { accounts: parseSelection(RESULTS) };
  const { window } = asked.figure;
  const year: Window = { by: 'period', from: ordinal(yearOf(window.to as Ordinal), 1), to: window.to as Ordinal };
  const memberOf = (key: string | null | undefined): Position =>
    positionIn(own, key ? (dimension.members.get(key) ?? 0) : 0);
  const soFar = await asked.narrowed({ ...results, window: year }).ask(ctx, [split, { by: 'type' }, { by: 'kind' }]);
  for (const sum of await splitSums(soFar.db, soFar.question, [split, { by: 'type' }, { by: 'kind' }])) {
    if (!sum.own) continue;
    const [member, type, kind] = sum.keys;
    const before = sum.part === 0 || (kind === 'opening' && type === 'equity');
    addToPosition(memberOf(member), type as 'income', before ? 'before' : 'year', add(sum.debit, -sum.credit));
  }
  const now = await asked.narrowed(results).ask(ctx, [split, { by: 'type' }]);
  for (const sum of await splitSums(now.db, now.question, [split, { by: 'type' }]))
    if (sum.own && sum.part >= 2)
      addToWindow(memberOf(sum.keys[0]), sum.keys[1] as 'income', add(sum.debit, -sum.credit));
  return own;
}

/** The same in another currency: results at the averages of their periods, equity at the rates of its days. */
async function translatedPositions(
  ctx: Context,
  asked: ResolvedFigure,
  dimension: CatalogueDimension,
): Promise<Map<number, Position>> {
  const { figure, viewer } = asked;
  requireWhole(viewer, 'A position in another currency is');
  if (figure.where.length > 0)
    throw wrong('in', 'in another currency a position is of whole books; remove the other clauses');
  const own = new Map<number, Position>();
  const window = figure.window as Extract<Window, { by: 'period' }>;
  const rates = await ratesFor(ctx, asked);
  const yearStart = ordinal(yearOf(window.to), 0);
  for (const e of asked.books) {
    const cal = calendar(e.entity.calendar);
    const left = (period: Ordinal): boolean =>
      figure.adjustments === 'without' &&
      period > yearStart &&
      cal.periodsOf(yearOf(period)).some((p) => p.ordinal === period && p.adjustment);
    const { at, averaged } = translator(rates, e, asked.currency);
    const scope = [e.books, dimension.slot, window.to, asked.asOf, figure.status] as const;
    const sums = await memberSumsUpTo(ctx.read, ...scope);
    const translates = e.entity.currency !== asked.currency;
    const days = translates ? await equityByDay(ctx.read, ...scope) : [];
    try {
      for (const s of [...(translates ? sums.filter((x) => x.type !== 'equity') : sums), ...days]) {
        if (left(s.period)) continue;
        const timeOfSum: TimeOfSum =
          s.period < yearStart || (s.opening && s.type === 'equity')
            ? 'before'
            : s.period >= window.from
              ? 'window'
              : 'year';
        const amount = !translates
          ? s.amount
          : 'day' in s
            ? at(s.amount, s.day as string)
            : averaged(s.amount, s.period);
        addToPosition(positionIn(own, s.member), s.type as 'income', timeOfSum, amount);
      }
    } catch (error) {
      throw withoutRate(error);
    }
  }
  return own;
}

/**
 * By how much the members' current balances together differ from the books: all that was ever booked on income, expense
 * and equity, asked of the sums by account and not of those by member. Null in another currency than the books'.
 */
async function offFromBooks(ctx: Context, asked: ResolvedFigure, members: Position): Promise<Minor | null> {
  // Who sees some accounts alone sees no retained earnings into which earlier years went.
  if (asked.translates || asked.viewer.accounts !== null) return null;
  const results = asked.narrowed({ accounts: parseSelection(RESULTS) });
  const booked = await figureTotal(ctx, results);
  return add(members.current, booked.closing);
}
