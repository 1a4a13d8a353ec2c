import type { Balance } from '@/core/balances';
import type { Figure } from '@/core/figure';
import { isTemporary } from '@/core/ledger';
import { add } from '@/core/money';
import { accountsIn } from '@/core/selection';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { mergedChart } from './accountBalances';

/** Whose opening balances a ledger carries: everybody’s, none, or not those of income and expense. */
export type Openings = 'all' | 'permanent' | 'none';

/** Whether a figure’s ledger begins with its opening balance. One of income and expense alone begins at nothing where they carry none. */
export function carriesOpening({ accounts }: Figure, asked: ResolvedFigure, openings: Openings = 'all'): boolean {
  if (openings !== 'permanent') return openings === 'all';
  const chart = mergedChart(asked);
  const taken = accounts === null ? null : accountsIn(accounts, chart);
  return chart.some((a) => a.posting && !isTemporary(a.type) && (taken === null || taken.has(a.code)));
}

/** A balance that begins at nothing. */
export const withoutOpening = (balance: Balance): Balance => ({
  ...balance,
  opening: 0,
  closing: add(balance.closing, -balance.opening),
});
