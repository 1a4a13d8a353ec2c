import { demoChart } from './chart';
import type { DemoEntry } from './entry';

/** Prices go up by so much in the plan, in percent; the plan is in whole hundreds of pounds. */
const UP = 3;
const ROUND = 10_000;
export const BUDGET_VERSION = 'Plan 2027';

/** The ferries' plan for the fiscal year that ends in 2027: the year before by account, month and cost centre, a little dearer. */
export function budgetRows(world: Iterable<DemoEntry>): string[][] {
  const temporary = new Set(
    demoChart()
      .filter((a) => a.posting && (a.type === 'income' || a.type === 'expense'))
      .map((a) => a.code),
  );
  const sums = new Map<string, number>();
  for (const entry of world) {
    if (entry.entity !== 'KSF' || entry.period || entry.date < '2025-04-01' || entry.date > '2026-03-31') continue;
    for (const line of entry.lines) {
      if (!temporary.has(line.account)) continue;
      const key = [line.account, entry.date.slice(5, 7), line.dims?.costcentre ?? ''].join('|');
      sums.set(key, (sums.get(key) ?? 0) + line.amount);
    }
  }
  const rows: string[][] = [];
  for (const [key, sum] of [...sums].sort(([a], [b]) => (a < b ? -1 : 1))) {
    const [account = '', month = '', costcentre = ''] = key.split('|');
    const planned = Math.round((sum * (100 + UP)) / 100 / ROUND) * (ROUND / 100);
    const period = ((Number(month) + 8) % 12) + 1;
    if (planned !== 0)
      rows.push([
        'KSF',
        BUDGET_VERSION,
        account,
        `2027.${String(period).padStart(2, '0')}`,
        `${planned}.00`,
        costcentre,
      ]);
  }
  return [['entity', 'version', 'account', 'period', 'amount', 'dim:costcentre'], ...rows];
}
