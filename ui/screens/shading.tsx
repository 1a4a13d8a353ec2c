import type { ReactNode } from 'react';
import type { SplitSheet } from '@/contracts/answers/sheets';
import { amountText } from '../amounts';

/** How the ground of a crosstab's cells is darkened. */
export type Shading = 'no' | 'size' | 'change';

type Columns = SplitSheet['columns'];
type Cells = NonNullable<SplitSheet['rows'][number]['cells']>;

const DARKEST_PERCENT = 34;
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
): ReactNode {
  const value = cells[at]?.[measure] ?? '0';
  if (shading === 'no') return amountText(value);
  if (shading === 'size') return ground(amountText(value), Math.abs(Number(value)) / most, 'var(--faint)');
  const before = columns.slice(0, at).findLastIndex((c) => c.within === columns[at]?.within);
  if (before < 0) return amountText(value);
  const change = Number(value) - Number(cells[before]?.[measure] ?? 0);
  const share = Math.abs(change) / most;
  const arrow = share < ARROW_SHARE ? null : change > 0 ? 'more' : 'less';
  return ground(
    <>
      {arrow && (
        <span className="mr-1 text-soft">
          <span aria-hidden>{arrow === 'more' ? '↗' : '↘'}</span>
          <span className="sr-only">{arrow} than before</span>
        </span>
      )}
      {amountText(value)}
    </>,
    share,
    change > 0 ? 'var(--faint)' : 'var(--fall)',
  );
}

const ground = (content: ReactNode, share: number, ink: string): ReactNode => (
  <span
    className="rounded-[2px] py-[3px] pl-2"
    style={{
      background: `color-mix(in srgb, ${ink} ${Math.round(DARKEST_PERCENT * Math.min(1, share))}%, transparent)`,
    }}
  >
    {content}
  </span>
);
