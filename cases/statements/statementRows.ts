import type { Balance } from '@/core/balances';
import { isTemporary } from '@/core/ledger';
import { add, type Minor } from '@/core/money';
import { parseSelection } from '@/core/selection';
import type { Value } from '@/core/sheet';
import { measureOf, membersOfRow, type Outline, type OutlineRow, valuesOf } from '@/core/statement';
import type { CatalogueAccount } from '@/store/catalogue';
import { balancesIn, type ownIn } from './rowsOfMembers';
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

/**
 * The value of each row in a column.
 * @param knows whether the column says anything of accounts together: a row of which it does not has no value
 */
export function valuesIn(
  outline: Outline,
  taken: Map<string, Set<string>>,
  balances: ReadonlyMap<string, Balance>,
  chart: CatalogueAccount[],
  knows: (accounts: readonly string[]) => boolean,
  own: ReturnType<typeof ownIn>,
): Map<string, Value> {
  const values = understood(() =>
    valuesOf(outline, taken, balances, resultOf(outline, balances, chart), balancesIn(own)),
  );
  const results = chart.filter((a) => a.posting && isTemporary(a.type)).map((a) => a.code);
  const accountsIn = (row: OutlineRow | undefined): readonly string[] => {
    switch (row?.is) {
      case 'accounts':
        return [...(taken.get(row.key) ?? [])];
      case 'result':
        return results;
      case 'formula':
        return row.terms.flatMap((term) => accountsIn(outline.rows.find((other) => other.key === term.row)));
      default:
        return [];
    }
  };
  for (const row of outline.rows)
    if (values.has(row.key) && !(own.get(row.key)?.knows ?? knows)(accountsIn(row))) values.delete(row.key);
  return values;
}

export const signOf = (row: OutlineRow, outline: Outline): 'debit' | 'credit' => {
  if (row.is === 'accounts') return row.sign;
  if (row.is === 'result') return 'credit';
  const first = row.is === 'formula' ? outline.rows.find((r) => r.key === row.terms[0]?.row) : undefined;
  return first && first !== row ? signOf(first, outline) : 'debit';
};

/** What asks for a row's accounts alone; null where a row has none of its own. The members that it is of are put beside. */
export function refineOf(row: OutlineRow, outline: Outline): Record<string, string | string[]> | null {
  if (row.is === 'accounts') return { accounts: row.accounts };
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
  // What is of some members of one row and of whole accounts in another is no one question.
  if (row.is === 'accounts') return membersOfRow(row) ? null : [row.accounts];
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
