import type { SplitSheet } from '@/contracts/answers/sheets';
import { change } from '@/core/money';
import type { AmountCell } from '../sheet/cell';

/** How the ground of a crosstab's cells is darkened. */
export type Shading = 'no' | 'size' | 'change';

type Columns = SplitSheet['columns'];
type Cells = NonNullable<SplitSheet['rows'][number]['cells']>;

/** Changes less than this share of the greatest figure bear no arrow. */
const ARROW_SHARE = 0.04;

/**
 * A cell whose ground darkens with its size against the largest, or with its change from the column before of its kind;
 * a change also bears an arrow, since the ground alone says neither which way nor to everybody.
 */
export function shadedCell(
  shading: Shading,
  columns: Columns,
  cells: Cells,
  at: number,
  measure: 'movement' | 'closing',
  most: number,
): AmountCell {
  const value = cells[at]?.[measure] ?? '0';
  const plain: AmountCell = { is: 'amount', value };
  if (shading === 'no') return plain;
  if (shading === 'size') return { ...plain, shade: { share: Math.abs(Number(value)) / most } };
  const before = columns.slice(0, at).findLastIndex((c) => c.within === columns[at]?.within);
  if (before < 0) return plain;
  const moved = change(value, cells[before]?.[measure] ?? '0');
  const fell = moved.startsWith('-');
  const share = Math.abs(Number(moved)) / most;
  return { ...plain, shade: { share, fell, arrow: share < ARROW_SHARE ? undefined : fell ? 'less' : 'more' } };
}
