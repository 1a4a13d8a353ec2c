import type { FileRecord } from '@/exchange/fileRecord';
import type { Problems } from '@/exchange/problem';
import type { LoadJob } from './loadJob';

/**
 * What empty cells of a table do to what is known already: they are asked about unless the load says that they clear it,
 * or that they keep it, in which case the row is as if it did not have the column.
 * @param held what was known, as text, by the columns of the file; an empty text where nothing was
 */
export function emptyCells(
  { row, values }: FileRecord,
  held: (column: string) => string,
  { emptyCells: rule }: Pick<LoadJob, 'emptyCells'>,
  problems: Problems,
): void {
  if (rule === 'clear') return;
  for (const column of Object.keys(values)) {
    if ((values[column] ?? '').trim() !== '') continue;
    const before = held(column);
    if (before === '') continue;
    if (rule === 'keep') delete values[column];
    else
      problems.add(
        row,
        column,
        null,
        `this cell is empty and would take away “${before}”; say with the load whether empty cells clear what is known or keep it`,
      );
  }
}
