import { figureSubject } from '@/contracts/subject';
import type { ColumnHead } from '@/core/sheet';
import { asPut, changedScope } from '../address/address';

/** The figure of one cell: what asks for it, under what it is kept, and which of its amounts is there. */
export interface CellFigure {
  put: Record<string, string[]>;
  subject: string;
  measure: 'movement' | 'closing';
}

/**
 * The figure of a cell under a column to compare with.
 * @param put what asks for the row in the window of the column
 * @returns undefined under any other column, where the row’s own figure is; null where the cell is calculated from others
 */
export function cellFigure(
  columns: readonly ColumnHead[] | undefined,
  column: string,
  address: string,
  put: Record<string, string[]>,
  measure: CellFigure['measure'],
): CellFigure | null | undefined {
  const head = columns?.find((c) => c.key === column);
  if (!head) return undefined;
  if (head.key !== 'window' && Object.keys(head.scope).length === 0) return null;
  const asked = { ...put, ...asPut(head.scope) };
  const scope = new URLSearchParams(address);
  changedScope(scope, asked);
  return { put: asked, subject: figureSubject(scope), measure };
}
