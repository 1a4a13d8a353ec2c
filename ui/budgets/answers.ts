/** A version of a budget as it is written: the rows of the income statement, one amount for each period. */
export interface BudgetAnswer {
  entity: string;
  version: string;
  year: number;
  currency: string;
  digits: number;
  unit: string[];
  periods: { period: string; from: string; to: string }[];
  rows: BudgetRow[];
  units: { unit: string[]; name: string; total: string }[];
  asOf: number;
}

export interface BudgetRow {
  kind: 'caption' | 'account';
  label: string;
  account: string | null;
  depth: number;
  sign: 'debit' | 'credit';
  /** Of a caption: how many of the rows after it it adds up; 0 for a mere heading. */
  takes: number;
  values: string[];
  elsewhere: string;
}

export interface BudgetList {
  rows: { version: string; year: number; lines: number; load: number; by: string; at: string }[];
  years: number[];
}
