import type { Balance } from '@/core/balances';
import { isTemporary } from '@/core/ledger';
import { add, type Minor } from '@/core/money';
import { parseSelection } from '@/core/selection';
import type { Value } from '@/core/sheet';
import { measureOf, type Outline, type OutlineRow, valuesOf } from '@/core/statement';
import type { CatalogueAccount } from '@/store/catalogue';
import { understood } from './shownOutline';

export function resultOf(
  outline: Outline,
  balances: ReadonlyMap<string, Balance>,
  chart: readonly CatalogueAccount[],
): Minor {
  const measure = measureOf(outline.kind);
  let sum = 0;
  for (const a of chart) if (a.posting && isTemporary(a.type)) sum = add(sum, balances.get(a.code)?.[measure] ?? 0);
  return sum;
}

export const valuesIn = (
  outline: Outline,
  taken: Map<string, Set<string>>,
  balances: ReadonlyMap<string, Balance>,
  chart: CatalogueAccount[],
): Map<string, Value> => understood(() => valuesOf(outline, taken, balances, resultOf(outline, balances, chart)));

export const signOf = (row: OutlineRow, outline: Outline): 'debit' | 'credit' => {
  if (row.is === 'accounts') return row.sign;
  if (row.is === 'result') return 'credit';
  const first = row.is === 'formula' ? outline.rows.find((r) => r.key === row.terms[0]?.row) : undefined;
  return first && first !== row ? signOf(first, outline) : 'debit';
};

/** What asks for a row's accounts alone; null where a row has none of its own. */
export function refineOf(row: OutlineRow, outline: Outline): Record<string, string | string[]> | null {
  const texts = selectionsOf(row, outline, new Set());
  if (texts === null || texts.length === 0) return null;
  const takes = texts.map((t) => parseSelection(t));
  // Selections that leave something out cannot be put side by side as one.
  if (texts.length > 1 && takes.some((s) => s.except.length > 0)) return null;
  return { accounts: texts.join(', ') };
}

function selectionsOf(row: OutlineRow, outline: Outline, seen: Set<string>): string[] | null {
  if (seen.has(row.key)) return null;
  seen.add(row.key);
  if (row.is === 'accounts') return [row.accounts];
  if (row.is === 'result') return ['type income, type expense'];
  if (row.is !== 'formula') return null;
  const found: string[] = [];
  for (const { row: key } of row.terms) {
    const of = outline.rows.find((r) => r.key === key);
    const texts = of ? selectionsOf(of, outline, seen) : null;
    if (texts === null) return null;
    found.push(...texts);
  }
  return found;
}
