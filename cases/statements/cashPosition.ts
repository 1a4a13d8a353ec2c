import { wrong } from '@/contracts/problem';
import type { Traced } from '@/contracts/traced';
import { emptyBalance } from '@/core/balances';
import { type Ordinal, ordinal, periodText, yearOf } from '@/core/calendar';
import type { Window } from '@/core/figure';
import { add, type Minor } from '@/core/money';
import { addPosition, cashPosition, emptyPosition, type Position } from '@/core/position';
import { accountsIn } from '@/core/selection';
import type { Context } from '../asking/context';
import { asBooked, type ResolvedFigure } from '../asking/resolvedFigure';
import { balancesByAccount, figureTotal, mergedChart } from '../balances/accountBalances';
import { ordersOf } from '../balances/orderedBalances';
import { cellsOf, POSITION_COLUMNS, positionGuard, positionSheet, ROW, totalRow } from './positionSheet';
import type { StatementRow, StatementSheet } from './sheet';

/**
 * Each cash account with what was there when the year began, what was received and paid in the window and since then,
 * open orders on it, and what is left (method.md §9).
 */
export async function positionOfAccounts(ctx: Context, asked: ResolvedFigure): Promise<StatementSheet> {
  asBooked(asked, 'A position');
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
        ...{ ...ROW, key: code, label: name, kind: 'account', account: code },
        ...{ cells: cellsOf(p), refine: { accounts: code } },
      },
    ];
  });
  rows.push(totalRow(whole, { accounts: accounts.map((a) => a.code).join(', ') || '~nothing' }));
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
  return positionSheet(
    { name: 'cash account', by: 'account' },
    POSITION_COLUMNS.filter(({ key }) => key !== 'adjustments').map(({ key, label, hint }) => ({
      ...{ key, label, hint: CASH_HINTS[key] ?? hint },
      ...{ scope: scopes[key]?.[0] ?? {}, measure: scopes[key]?.[1] },
    })),
    rows,
    [positionGuard(off, 'accounts', 'hold what they come to in the books', asked.digits)],
  );
}

/** What a column says of cash accounts, where it is another thing than of members. */
const CASH_HINTS: Partial<Record<keyof Position, string>> = {
  received: 'What was received since the year began: debits.',
  receivedNow: 'What was received in the window. It is a part of the year’s, and not added again.',
  spent: 'What was paid since the year began: credits.',
  spentNow: 'What was paid in the window. It is a part of the year’s, and not added again.',
  current: 'What was there when the year began, with what was received, less what was paid.',
};
