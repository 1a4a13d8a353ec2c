/** A row of a statement with its values, as it crosses the API. */
export interface StatementRow {
  key: string;
  label: string;
  kind: string;
  depth: number;
  emphasis: 'subtotal' | 'total' | undefined;
  sign: 'debit' | 'credit';
  account: string | null;
  /** Decimal strings by column key, in natural sign; null where there is nothing to say. */
  values: Record<string, string | null>;
  /** Scope parameters that ask for this row alone; null where it has no lines of its own. */
  refine: Record<string, string | string[]> | null;
  /** Whether it can be opened to its accounts. */
  opens: boolean;
}
