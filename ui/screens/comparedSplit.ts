import type { SplitSheet } from '@/contracts/answers/sheets';
import { type Cell, comparedCell } from '../sheet/cell';
import { amountWidth, type Column } from '../sheet/gridModel';

// Columns to compare with beside the rows of a split, as they are shown.

type Row = SplitSheet['rows'][number];

const AMOUNT = amountWidth(128);
export type Heads = NonNullable<SplitSheet['compared']>;
type Values = Row['values'];

export const comparedColumns = (title: string, heads: Heads, measure: 'movement' | 'closing'): Column[] => [
  { key: 'member', label: title, width: 'minmax(200px, 1fr)' },
  ...heads.map((c) => ({
    key: c.key,
    label: c.key === 'window' ? (measure === 'closing' ? 'Closing balance' : 'Movement') : c.label,
    amount: true,
    percent: c.unit === 'percent',
    width: c.unit === 'percent' ? 'minmax(76px, 96px)' : AMOUNT,
    hint: `${c.title ? `${c.title}. ` : ''}${c.hint}`,
  })),
];

/** Less expense or more income than planned is favourable. */
export const comparedCells = (heads: Heads, values: Values): Record<string, Cell> =>
  Object.fromEntries(
    heads.map((c) => {
      const value = values?.[c.key] ?? null;
      const verdict = c.favourable === null || value === null ? null : value.startsWith('-') ? 'favourable' : 'adverse';
      return [c.key, comparedCell(value, c.unit, verdict)];
    }),
  );

/** A column that is made of others, or was planned, has no lines of its own; nor has a row of time that is not there in it. */
export const isDerived = (heads: Heads, column: string, row: Row): boolean =>
  headsOf(row, column, heads).some(
    (c) => c.key === column && c.key !== 'window' && !c.key.startsWith('in:') && Object.keys(c.scope).length === 0,
  );

/** The columns as a row of time has them: over the row's own time within each. */
export const headsOf = ({ scopes }: Row, column: string, heads: Heads): Heads =>
  scopes ? heads.map((c) => (c.key === column ? { ...c, scope: scopes[column] ?? {} } : c)) : heads;
