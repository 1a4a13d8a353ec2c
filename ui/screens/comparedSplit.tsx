import type { ReactNode } from 'react';
import type { SplitSheet } from '@/contracts/answers/sheets';
import { columnText, isZero } from '../amounts';
import { Verdict } from '../parts/Verdict';
import type { Column } from '../sheet/gridModel';

// Columns to compare with beside the rows of a split, as they are shown.

type Row = SplitSheet['rows'][number];

const AMOUNT = 'minmax(100px, 128px)';
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

export const comparedCells = (heads: Heads, values: Values): Record<string, ReactNode> =>
  Object.fromEntries(heads.map((c) => [c.key, withVerdict(c, values?.[c.key] ?? null)]));

export const comparedAmounts = (heads: Heads, values: Values): Record<string, string> =>
  Object.fromEntries(
    heads.flatMap((c) => (c.unit === 'amount' && values?.[c.key] != null ? [[c.key, values[c.key] as string]] : [])),
  );

/** Less expense or more income than planned is favourable: said in a word, not by colour. */
function withVerdict(head: Heads[number], value: string | null): ReactNode {
  const text = columnText(value, head.unit === 'percent');
  if (head.favourable === null || value === null || isZero(value)) return text;
  return <Verdict favourable={value.startsWith('-')}>{text}</Verdict>;
}

/** A column that is made of others, or was planned, has no lines of its own; nor has a row of time that is not there in it. */
export const isDerived = (heads: Heads, column: string, row: Row): boolean =>
  headsOf(row, column, heads).some(
    (c) => c.key === column && c.key !== 'window' && !c.key.startsWith('in:') && Object.keys(c.scope).length === 0,
  );

/** The columns as a row of time has them: over the row's own time within each. */
export const headsOf = ({ scopes }: Row, column: string, heads: Heads): Heads =>
  scopes ? heads.map((c) => (c.key === column ? { ...c, scope: scopes[column] ?? {} } : c)) : heads;
