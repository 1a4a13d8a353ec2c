import type { Traced } from '@/contracts/traced';
import type { Minor } from '@/core/money';
import type { Position } from '@/core/position';
import { amountOf } from '@/core/sheet';
import { spokenAmount } from '../asking/spokenNumbers';
import type { StatementRow, StatementSheet } from './sheet';

interface PositionColumn {
  key: keyof Position;
  label: string;
  hint: string;
}

export const POSITION_COLUMNS: readonly PositionColumn[] = [
  { key: 'opening', label: 'Opening', hint: 'What was there when the fiscal year began.' },
  { key: 'adjustments', label: 'Adjustments', hint: 'What was booked directly on equity in the year.' },
  { key: 'receivedNow', label: 'Received, window', hint: 'What came in in the window.' },
  { key: 'received', label: 'Received, year', hint: 'What came in since the year began.' },
  { key: 'spentNow', label: 'Spent, window', hint: 'What was spent in the window.' },
  { key: 'spent', label: 'Spent, year', hint: 'What was spent since the year began.' },
  { key: 'current', label: 'Current', hint: 'Opening and adjustments, with what came in, less what was spent.' },
  { key: 'committed', label: 'Committed now', hint: 'Open orders that fall due up to the end of the window.' },
  { key: 'committedLater', label: 'Committed later', hint: 'Open orders that fall due after it.' },
  { key: 'available', label: 'Available', hint: 'What is left after open orders.' },
];

/** What the rows of every position have in common. */
export const ROW = {
  depth: 0,
  sign: 'debit',
  account: null,
  opens: false,
  emphasis: undefined,
  measure: 'movement',
} as const;

export const cellsOf = (p: Position): StatementRow['cells'] =>
  Object.fromEntries(POSITION_COLUMNS.map(({ key }) => [key, amountOf(p[key])]));

export const totalRow = (whole: Position, refine: Record<string, string>): StatementRow => ({
  ...{ ...ROW, key: 'total', label: 'Total', kind: 'formula', emphasis: 'total' },
  ...{ cells: cellsOf(whole), refine },
});

/** A position as a statement. @param of what its rows are, and the split that asks for it */
export const positionSheet = (
  { name, by }: { name: string; by: string },
  columns: readonly (PositionColumn & { scope: Record<string, string>; measure: Traced | undefined })[],
  rows: StatementRow[],
  proofs: StatementSheet['proofs'],
): StatementSheet => ({
  ...{ code: 'position', name: `Position by ${name}`, kind: 'position', shareOf: null, by },
  columns: columns.map(({ measure, ...column }) => ({
    ...{ ...column, title: '', unit: 'amount' as const, favourable: null },
    ...(measure ? { measure } : {}),
  })),
  ...{ rows, whole: null, proofs, empty: null },
});

/** Whether the rows together are what is in the books. @param hold what they then do */
export const positionGuard = (
  off: Minor,
  rows: string,
  hold: string,
  digits: number,
): StatementSheet['proofs'][number] => ({
  ...{ guard: 'position', ok: off === 0, off, accounts: [] },
  says:
    off === 0
      ? `the ${rows} together ${hold}`
      : `the ${rows} together differ from the books by ${spokenAmount(off, digits)}`,
});
