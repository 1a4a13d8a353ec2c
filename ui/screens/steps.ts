import type { SplitSheet, TrialBalance } from '../query/answers';
import { type Screen, type Step, scopeAt } from '../thread/address';

/** What the trial balance is asked, from the address. */
export function trialBalanceParams(screen: Screen): URLSearchParams {
  const params = scopeAt(screen, 0);
  params.set('tree', screen.options.tree ?? 'yes');
  params.set('zero', screen.options.zero ?? 'hide');
  params.set('yearToDate', 'yes');
  if (screen.options.retained === 'parts') params.set('retained', 'parts');
  return params;
}

type BalanceRow = TrialBalance['rows'][number];

/** Tracing an account leads to its lines; the year-to-date column leads to the lines of the year so far. */
export function trialBalanceStep(row: BalanceRow, column: string, scope: URLSearchParams, yearStart?: string): Step {
  const put: Record<string, string[]> = { accounts: [row.account] };
  const to = scope.get('to');
  if (column === 'yearToDate' && yearStart && to) Object.assign(put, { from: [yearStart], to: [to] });
  return { view: 'lines', label: row.heading ? row.name : `${row.account} ${row.name}`, row: row.account, column, put };
}

/** Tracing a row of a split leads to its lines. */
export function splitStep(row: SplitSheet['rows'][number], column: string): Step {
  const put = Object.fromEntries(Object.entries(row.refine).map(([name, value]) => [name, Array.isArray(value) ? value : [value]]));
  return { view: 'lines', label: row.name, row: row.member, column, put };
}
