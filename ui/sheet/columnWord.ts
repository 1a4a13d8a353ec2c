import type { Column } from './gridModel';
import type { SheetModel } from './model';

const WORDS: Record<string, string> = {
  opening: 'opening balance',
  debit: 'debits',
  credit: 'credits',
  closing: 'closing balance',
  balance: 'balance',
  movement: 'movement',
  yearToDate: 'year to date',
};

/** The word for a column, unless it has another label there: a balance that runs from nothing is none. */
const wordFor = (column: Column | undefined): string | undefined =>
  column?.key === 'balance' && column.label !== 'Balance' ? 'running movement' : WORDS[column?.key ?? ''];

/** What a column is called at the head of a sentence, as its own label says it. */
export function columnName(model: SheetModel, at: number): string {
  const column = model.columns[at];
  return wordFor(column) ?? column?.label ?? '';
}

/** What a column of amounts is called in a sentence. */
export function columnWord(model: SheetModel, at: number): string {
  const column = model.columns[at];
  return wordFor(column) ?? column?.label.toLowerCase() ?? '';
}
