import { CLAUSES } from '../scope/clauses';

// What the controls of a sheet do, as it is told on pointing at them and read out with them.

/** Parts of the sentence that are always there. */
const SENTENCE: Record<string, string> = {
  entity: 'Whose books: one company, or several as a group',
  window: 'When: periods, dates, single periods, or a named window with what it means today',
  status: 'Which lines count: posted, not posted or both; as booked, or when settled',
  adjustments: 'Whether the adjustment periods of the years touched count',
  in: 'The currency in which figures are shown',
  load: 'Everything as it was as of this load',
};

/** What a part of the sentence is, and that it opens. */
export const partHint = (control: string): string =>
  SENTENCE[control] ??
  (control.startsWith('dim.')
    ? 'Members of this dimension; opens to others'
    : (CLAUSES[control]?.hint ?? 'Opens to be changed'));

/** Ways to show a sheet, by what they are called. */
const WAYS: Record<string, string> = {
  Accounts: 'Whether accounts are named by code, by name, or both',
  Amounts: 'How far amounts are shown; what is exported stays exact',
  Balances: 'Balances in one column, or debit and credit apart',
  Columns: 'What stands beside: other windows, plans, changes, shares (c)',
  Compares: 'Whether movements or closing balances are compared',
  Group: 'Dealings between the companies of a group, in or out',
  Groups: 'The lines in groups, each with balances of its own',
  Levels: 'How many levels of headings are shown',
  Names: 'The language of names and captions',
  'Of each': 'Of what the position is: members of a dimension, or cash accounts',
  'Opening balances': 'Whether what stood there before the window is carried',
  Outline: 'The house’s own rows, or those of a statutory scheme',
  'Retained earnings': 'As one, or by the years that they came from',
  Rows: 'What a row of the sheet is',
  Shading: 'Darkens cells by size, or by change from the one before',
  Shows: 'Whether cells show what moved or what stood at the end',
  'Side by side': 'Members of a dimension, or companies, in columns',
  'Split by': 'What the rows are',
  Statement: 'Which statement is shown',
  'Which accounts': 'Accounts with a balance, with movement, or all',
  across: 'What stands across in columns',
  into: 'What the opened column is split into',
  'open column': 'Splits one column further while the others stay',
  'then by': 'A further level of rows within each',
};

/** What a way to show a sheet is about; its own name where that says all. */
export const wayHint = (label: string): string => WAYS[label] ?? label;
