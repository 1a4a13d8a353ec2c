import type { Traced } from '@/contracts/bodies';
import { wrong } from '@/contracts/problem';
import { readSplit } from '@/contracts/splits';
import { calendar, type Ordinal, ordinal, periodText, yearOf } from '@/core/calendar';
import { add, type Minor } from '@/core/money';
import {
  addCommitment,
  addPosition,
  addToPosition,
  emptyPosition,
  type Position,
  type TimeOfSum,
} from '@/core/position';
import { parseSelection } from '@/core/selection';
import { amountOf } from '@/core/sheet';
import { commitmentsByMember, equityByDay, memberSumsUpTo } from '@/store/positions';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { spokenAmount } from '../asking/spokenNumbers';
import { requireWhole, type Viewer } from '../asking/viewer';
import { figureTotal } from '../balances/accountBalances';
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

/** Fund or project position: each member of a dimension with what came in, what went out, and what is left after orders. */
export async function position(
  ctx: Context,
  viewer: Viewer,
  asked: ResolvedFigure,
  by: string | undefined,
): Promise<StatementSheet> {
  const { figure, digits } = asked;
  const { window } = figure;
  const split = by === undefined ? null : readSplit(by);
  const codes = [...asked.known.catalogue.dimensions.keys()];
  const dimension = asked.known.catalogue.dimensions.get(
    split?.by === 'dim' ? split.dim : (codes.find((c) => /fund|project/i.test(c)) ?? codes[0] ?? ''),
  );
  if (!dimension || (split && split.by !== 'dim'))
    throw wrong(
      'by',
      `a position is of the members of a dimension: ${codes.map((c) => `dim:${c}`).join(', ') || 'none is loaded'}`,
    );
  if (window.by !== 'period') throw wrong('from', 'a position is of whole periods; choose periods instead of dates');
  requireWhole(viewer, 'A position is');
  if (figure.where.length > 0 || figure.accounts)
    throw wrong('entity', 'a position is of whole books; take the other clauses away');
  const rates = await ratesFor(ctx, asked);
  const own = new Map<number, Position>();
  const of = (member: number): Position => {
    const held = own.get(member) ?? emptyPosition();
    own.set(member, held);
    return held;
  };
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
    // In its own currency equity comes from the summaries; in another each day has its rate.
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
        addToPosition(of(s.member), s.type as 'income', timeOfSum, amount);
      }
      const end = cal.period(window.to).to;
      for (const c of await commitmentsByMember(ctx.read, e.entity.id, dimension.slot, asked.asOf))
        addCommitment(of(c.member), translates ? at(c.amount, end) : c.amount, c.period > window.to);
    } catch (error) {
      throw withoutRate(error);
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

/**
 * By how much the members' current balances together differ from the books: all that was ever booked on income, expense
 * and equity, asked of the sums by account and not of those by member. Null in another currency than the books'.
 */
async function offFromBooks(ctx: Context, asked: ResolvedFigure, members: Position): Promise<Minor | null> {
  if (asked.translates) return null;
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
