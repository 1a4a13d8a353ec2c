import { figureSubject } from '@/contracts/subject';
import type { Step } from '../address/address';
import type { Cell } from './cell';
import type { SheetRow } from './model';

export const WHOLE = '~whole';

/**
 * The total of a sheet as a row: it is focused, traced, split, noted and pinned like any other, and asks for all that the
 * sheet does.
 * @param address what the sheet asks
 * @param to where tracing leads, null where all of it is on the sheet already
 */
export function wholeRow(cells: Record<string, Cell>, address: string, to: Pick<Step, 'view' | 'by'> | null): SheetRow {
  return {
    key: WHOLE,
    label: 'All of it',
    look: 'total',
    cells,
    subject: figureSubject(new URLSearchParams(address)),
    put: {},
    ...(to ? { opens: true } : {}),
    step: (column) => (to ? { ...to, label: 'All of it', row: WHOLE, column, put: {} } : null),
    say: () => 'All rows of this sheet together.',
  };
}
