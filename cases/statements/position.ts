import type { Traced } from '@/contracts/bodies';
import { wrong } from '@/contracts/problem';
import { readSplit } from '@/contracts/splits';
import { emptyBalance } from '@/core/balances';
import { calendar, type Ordinal, ordinal, periodText, yearOf } from '@/core/calendar';
import type { Split, Window } from '@/core/figure';
import { add, type Minor } from '@/core/money';
import {
  addCommitment,
  addPosition,
  addToPosition,
  addToWindow,
  cashPosition,
  emptyPosition,
  type Position,
  type TimeOfSum,
} from '@/core/position';
import { accountsIn, parseSelection } from '@/core/selection';
import { amountOf } from '@/core/sheet';
import { splitSums } from '@/store/balances';
import type { PlannedColumn } from '@/store/budgets';
import type { CatalogueDimension } from '@/store/catalogue';
import { commitmentSums } from '@/store/commitments';
import { equityByDay, memberSumsUpTo } from '@/store/positions';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { spokenAmount } from '../asking/spokenNumbers';
import { requireWhole, type Viewer } from '../asking/viewer';
import { balancesByAccount, figureTotal, mergedChart } from '../balances/accountBalances';
import { lastDayOf, ordersOf } from '../balances/orderedBalances';
import { narrowedTo } from '../balances/plannedBalances';
import { ratesFor, translator, withoutRate } from '../balances/translation';
import type { StatementRow, StatementSheet } from './sheet';

const COLUMNS: { key: keyof Position; label: string; hint: string }[] = [
  { key: 'opening', label: 'Opening', hint: 'What was there when the fiscal year began.' },
  { key: 'adjustments', label: 'Adjustments', hint: 'What was booked directly on equity in the year.' },
  { key: 'receivedNow', label: 'Received, window', hint: 'What came in in the window.' },
  { key: 'received', label: 'Received, year', hint: 'What came in since the year began.' },
  { key: 'spentNow', label: 'Spent, window', hint: 'What was spent in the window.' },
  { key: 'spent', label: 'Spent, year', hint: 'What was spent since the year began.' },
  { key: 'current', label: 'Current', hint: 'Opening and adjustments, with what came in, less what was spent.' },
  { key: 'committed', label: 'Committed now', hint: 'Open orders that fall due up to the end of the window.' },
  { key: 'committedLater', label: 'Committed later', hint: 'Open orders that fall due after it.' },
  { key: 'available', label: 'Available', hint: 'What is left after open orders.' },
];

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
  const valuesOf = (p: Position): StatementRow['cells'] =>
    Object.fromEntries(COLUMNS.map(({ key }) => [key, amountOf(p[key])]));
  const shown = { sign: 'debit' as const, account: null, opens: false, emphasis: undefined };
  const walk = (under: string | null, depth: number): Position => {
    const sum = emptyPosition();
    for (const m of dimension.tree.values()) {
      if ((m.parent !== null && dimension.tree.has(m.parent) ? m.parent : null) !== under) continue;
      const row: StatementRow = {
        key: m.code,
        label: m.name,
        kind: 'accounts',
        depth,
        ...shown,
        cells: {},
        refine: { [`dim.${dimension.code}`]: m.code },
        measure: 'movement',
      };
      const at = rows.push(row) - 1;
      const all = walk(m.code, depth + 1);
      addPosition(all, own.get(dimension.members.get(m.code) ?? -1) ?? emptyPosition());
      addPosition(sum, all);
      // Only members that hold something.
      if (Object.values(all).every((v) => v === 0)) rows.splice(at);
      else row.cells = valuesOf(all);
    }
    return sum;
  };
  walk(null, 0);
  const none = own.get(0);
  if (none && Object.values(none).some((v) => v !== 0)) {
    rows.push({
      key: '~none',
      label: `no ${dimension.name.toLowerCase()}`,
      kind: 'accounts',
      depth: 0,
      ...shown,
      cells: valuesOf(none),
      refine: { [`dim.${dimension.code}`]: '~none' },
      measure: 'movement',
    });
  }
  rows.push({
    key: 'total',
    label: 'Total',
    kind: 'formula',
    depth: 0,
    ...shown,
    emphasis: 'total',
    cells: valuesOf(whole),
    refine: {},
    measure: 'movement',
  });
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
  return {
    code: 'position',
    name: `Position by ${dimension.name.toLowerCase()}`,
    kind: 'position',
    shareOf: null,
    by: `dim:${dimension.code}`,
    columns: COLUMNS.map(({ key, label, hint }) => ({
      key,
      label,
      title: '',
      hint,
      unit: 'amount',
      scope: scopeOf(key),
      favourable: null,
      ...(MEASURE_OF[key] ? { measure: MEASURE_OF[key] } : {}),
    })),
    rows,
    whole: null,
    proofs: off === null ? [] : [positionGuard(off, spokenAmount(off, digits))],
    empty: null,
  };
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
    const scope = [e.entity.id, dimension.slot, window.to, asked.asOf, figure.status] as const;
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
 * Each cash account with what was there when the year began, what was received and paid in the window and since then,
 * open orders on it, and what is left (method.md §9).
 */
async function positionOfAccounts(ctx: Context, asked: ResolvedFigure): Promise<StatementSheet> {
  if (asked.translates) throw wrong('in', 'a position of cash accounts is in the currency of the books');
  const window = asked.figure.window as Extract<Window, { by: 'period' }>;
  const chart = mergedChart(asked).filter((a) => a.posting);
  const isCash = (a: { flow: string | null }): boolean => a.flow === 'cash';
  const wanted = asked.figure.accounts ? accountsIn(asked.figure.accounts, chart) : null;
  const accounts = chart.filter((a) => (wanted ? wanted.has(a.code) : isCash(a)));
  const narrowed = asked.narrowed({
    accounts: { take: accounts.map((a) => ({ is: 'code', code: a.code })), except: [] },
  });
  const year: Window = { by: 'period', from: ordinal(yearOf(window.to), 1), to: window.to };
  const byAccount = { splits: [{ by: 'account' as const }], trees: new Map() };
  const [soFar, now, due, later] = await Promise.all([
    balancesByAccount(ctx, narrowed.narrowed({ window: year })),
    balancesByAccount(ctx, narrowed),
    ordersOf(ctx.read, narrowed, { figure: narrowed.figure, due: 'now' }, byAccount),
    ordersOf(ctx.read, narrowed, { figure: narrowed.figure, due: 'later' }, byAccount),
  ]);
  const ordered = (plan: typeof due, code: string): Minor =>
    (plan.leaves ?? []).reduce((sum, l) => (l.keys[0] === code ? add(sum, l.balance.movement) : sum), 0);
  const whole = emptyPosition();
  const rows: StatementRow[] = accounts.flatMap(({ code, name }) => {
    const [y, w] = [soFar.get(code) ?? emptyBalance(), now.get(code) ?? emptyBalance()];
    const p = cashPosition(y, w, ordered(due, code), ordered(later, code));
    addPosition(whole, p);
    if (Object.values(p).every((v) => v === 0)) return [];
    return [
      {
        ...{ key: code, label: name, kind: 'account' as const, depth: 0, sign: 'debit' as const, account: code },
        ...{ opens: false, emphasis: undefined, measure: 'movement' as const },
        cells: Object.fromEntries(COLUMNS.map(({ key }) => [key, amountOf(p[key])])),
        refine: { accounts: code },
      },
    ];
  });
  rows.push({
    ...{ key: 'total', label: 'Total', kind: 'formula', depth: 0, sign: 'debit', account: null, opens: false },
    emphasis: 'total',
    cells: Object.fromEntries(COLUMNS.map(({ key }) => [key, amountOf(whole[key])])),
    refine: { accounts: accounts.map((a) => a.code).join(', ') || '~nothing' },
    measure: 'movement',
  });
  const { closing } = await figureTotal(ctx, narrowed);
  const off = add(whole.current, -closing);
  const toDate = { from: periodText(year.from as Ordinal), to: periodText(window.to) };
  const scopes: Partial<Record<keyof Position, [Record<string, string>, Traced]>> = {
    opening: [toDate, 'opening'],
    received: [toDate, 'debit'],
    spent: [toDate, 'credit'],
    receivedNow: [{ to: toDate.to, from: periodText(window.from) }, 'debit'],
    spentNow: [{ to: toDate.to, from: periodText(window.from) }, 'credit'],
    current: [toDate, 'closing'],
  };
  return {
    code: 'position',
    name: 'Position by cash account',
    kind: 'position',
    shareOf: null,
    by: 'account',
    columns: COLUMNS.filter(({ key }) => key !== 'adjustments').map(({ key, label, hint }) => ({
      ...{ key, label, title: '', hint: CASH_HINTS[key] ?? hint, unit: 'amount' as const, favourable: null },
      scope: scopes[key]?.[0] ?? {},
      ...(scopes[key] ? { measure: scopes[key][1] } : {}),
    })),
    rows,
    whole: null,
    proofs: [
      {
        guard: 'position',
        ok: off === 0,
        off,
        accounts: [],
        says:
          off === 0
            ? 'the accounts together hold what they come to in the books'
            : `the accounts together differ from the books by ${spokenAmount(off, asked.digits)}`,
      },
    ],
    empty: null,
  };
}

/** What a column says of cash accounts, where it is another thing than of members. */
const CASH_HINTS: Partial<Record<keyof Position, string>> = {
  received: 'What was received since the year began: debits.',
  receivedNow: 'What was received in the window. It is a part of the year’s, and not added again.',
  spent: 'What was paid since the year began: credits.',
  spentNow: 'What was paid in the window. It is a part of the year’s, and not added again.',
  current: 'What was there when the year began, with what was received, less what was paid.',
};

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

const positionGuard = (off: Minor, text: string): StatementSheet['proofs'][number] => ({
  guard: 'position',
  ok: off === 0,
  off,
  accounts: [],
  says:
    off === 0
      ? 'the members together hold what income, expense and equity have come to in the books'
      : `the members together differ from the books by ${text}`,
});
